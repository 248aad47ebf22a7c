"""The web application: jobs and plans over HTTP, and the built front end. Holds no rules of the job."""

from lean_ledger.web.app import create_app

__all__ = ["create_app"]
