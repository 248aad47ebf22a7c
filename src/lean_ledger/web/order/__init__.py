"""The order of a load over the API."""
