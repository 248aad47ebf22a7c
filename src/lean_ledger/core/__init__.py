"""The job: every rule and computation of process planning.

Knows no web framework, no database and no files but those it is handed. Anything may import it; it imports only
`lean_ledger.library` (plain shop data) and general-purpose packages.
"""
