"""What another revision of a part costs: feature by feature, setup by setup, and in its programs."""
