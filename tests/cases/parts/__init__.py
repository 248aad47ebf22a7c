"""Made-up parts that first plans are tried on: named ones, and others drawn by a seed from a grammar of features."""
