"""Programs in ISO 6983 words: reading, timing and checking them on a simulated machine, writing those of a plan.

Imports nothing of the web, the store or the command line.
"""
