"""Several plans of a job: beside one another, and the combinations that the program makes by itself."""
