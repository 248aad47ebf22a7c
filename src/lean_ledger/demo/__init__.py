"""The demo shop: a small contract shop that makes parts of remote weather stations and field instruments."""
