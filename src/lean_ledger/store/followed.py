"""What was found on stock that was followed, kept in the database: the next start has it at once."""

from __future__ import annotations

import hashlib
import zlib

from pydantic import TypeAdapter, ValidationError
from sqlalchemy import delete, select

from lean_ledger.core.followed.in_process import Followed
from lean_ledger.store.database import Database
from lean_ledger.store.ledgers import Key
from lean_ledger.store.models import FollowedRow
from lean_ledger.store.rows import PLANS, now

MOST = 1000  # rows, the newest

FOLLOWED: TypeAdapter[Followed] = TypeAdapter(Followed)


def row_key(key: Key, made_by: str) -> str:
    """Another text whenever another stock could come of it. `made_by` tells the library and the build."""
    lineage, _newest, plan, _shelf = key
    return hashlib.sha256(f"{made_by} {lineage} ".encode() + PLANS.dump_json(plan)).hexdigest()


def kept_followed(database: Database, key: str) -> Followed | None:
    """None where it was never followed, or by a build whose rows cannot be read."""
    with database.reading() as session:
        row = session.get(FollowedRow, key)
        content = row.content if row is not None else None
    if content is None:
        return None
    try:
        return FOLLOWED.validate_json(zlib.decompress(content))
    except (zlib.error, ValidationError):
        return None


def keep_followed(database: Database, key: str, found: Followed) -> None:
    packed = zlib.compress(FOLLOWED.dump_json(found), 6)
    with database.writing() as session:
        session.merge(FollowedRow(key=key, content=packed, at=now()))
        newest = select(FollowedRow.key).order_by(FollowedRow.at.desc()).limit(MOST)
        session.execute(delete(FollowedRow).where(FollowedRow.key.not_in(newest)))
