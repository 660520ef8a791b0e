"""Who may come in from another machine: one passphrase, and the sessions that it opened."""

from __future__ import annotations

import hashlib
import secrets
import sqlite3
import threading
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

import argon2

from calm_basin.store import events
from calm_basin.store.database import now, transaction

SHORTEST, LONGEST = 12, 128
"""Characters of a passphrase (OWASP ASVS 4.0.3, 2.1.1 and 2.1.2)."""

HOURS = 12
"""A session ends so long after it was opened (OWASP ASVS 4.0.3, 3.3.2)."""

AHEAD = 5
"""By so many minutes a clock may be put back without ending the sessions that are open."""

TRIES, MINUTES = 5, 15
"""So many refused sign-ins from one address lock it out for so long."""

TRIES_OF_ALL = 60
"""So many refused in an hour from all addresses lock everybody out that is not in
(OWASP ASVS 4.0.3, 2.2.1: no more than 100 an hour)."""

# The parameters of RFC 9106's second recommended option, which argon2-cffi takes as its default.
_HASHER = argon2.PasswordHasher()
# Each hash takes 64 MiB: who knocks often does not take all of the memory.
_ONE_AT_A_TIME = threading.Semaphore(2)
_PLACES = threading.BoundedSemaphore(6)


class PassphraseError(ValueError):
    """A passphrase cannot be taken; the message says why."""


class LockedOutError(RuntimeError):
    """One may not try now; carries the seconds after which one may again."""

    def __init__(self, why: str, seconds: int) -> None:
        super().__init__(why)
        self.seconds = seconds


def _too_many(seconds: int) -> LockedOutError:
    return LockedOutError(
        f"Too many wrong passphrases. Wait {seconds // 60} minutes and try again, or set a new one "
        "on the machine that serves: calm-basin passphrase.",
        seconds,
    )


@dataclass(frozen=True)
class Session:
    """A browser that is in: its key here, since when, and from where."""

    key: str
    made_at: str
    address: str
    browser: str


def is_set(db: sqlite3.Connection) -> bool:
    """Whether there is a passphrase."""
    return db.execute("SELECT 1 FROM passphrase").fetchone() is not None


def set_passphrase(db: sqlite3.Connection, passphrase: str) -> None:
    """Set the passphrase and end all sessions. Raises `PassphraseError`."""
    if not SHORTEST <= len(passphrase) <= LONGEST:
        raise PassphraseError(f"A passphrase has {SHORTEST} to {LONGEST} characters.")
    try:
        passphrase.encode()
    except UnicodeEncodeError:
        raise PassphraseError("It has half a character. Type another.") from None
    if len(set(passphrase)) < 5:
        raise PassphraseError(
            "This one is guessed at once. Take four words that do not go together."
        )
    with _ONE_AT_A_TIME:
        hashed = _HASHER.hash(passphrase)
    with transaction(db):
        db.execute(
            "INSERT INTO passphrase (id, hash, changed_at) VALUES (1, ?, ?) ON CONFLICT (id) "
            "DO UPDATE SET hash = excluded.hash, changed_at = excluded.changed_at",
            (hashed, now()),
        )
        db.execute("DELETE FROM session")
    events.tell(db, "passphrase", "", "set anew; all sessions ended")


def sign_in(db: sqlite3.Connection, passphrase: str, address: str, browser: str) -> str | None:
    """Open a session and return its token, or none where the passphrase is wrong.

    Raises `LockedOutError`.
    """
    # Counted before it is looked at: of many at once no more are looked at than may be.
    attempt = _counted(db, address, browser)
    try:
        right = _right(db, passphrase)
    except LockedOutError:
        # What was not looked at was no guess.
        events.forget(db, attempt)
        raise
    if not right:
        return None
    events.forget(db, attempt)
    token = secrets.token_urlsafe(32)
    with transaction(db):
        db.execute("DELETE FROM session WHERE made_at NOT BETWEEN ? AND ?", _open())
        db.execute(
            "INSERT INTO session (token, made_at, address, browser) VALUES (?, ?, ?, ?)",
            (_key(token), now(), address, browser[:200]),
        )
    events.tell(db, "signed in", address, browser)
    return token


def _counted(db: sqlite3.Connection, address: str, browser: str) -> int:
    """Write an attempt down as refused, and return its number. Raises `LockedOutError`."""
    with transaction(db):
        _raise_if_locked(db, address)
        return events.add(db, "refused", address, browser)


def _right(db: sqlite3.Connection, passphrase: str) -> bool:
    """Whether it is the passphrase. Raises `LockedOutError` where too many ask at once: nobody
    waits in a line for it, and others are answered meanwhile."""
    row = db.execute("SELECT hash FROM passphrase").fetchone()
    if not _PLACES.acquire(blocking=False):
        raise LockedOutError("Many sign in at once. Wait a few seconds and try again.", 2)
    try:
        with _ONE_AT_A_TIME:
            return row is not None and _HASHER.verify(row["hash"], passphrase[: LONGEST + 1])
    except (argon2.exceptions.VerificationError, UnicodeEncodeError):
        return False
    finally:
        _PLACES.release()


def _raise_if_locked(db: sqlite3.Connection, address: str) -> None:
    if events.refused_within(db, timedelta(minutes=MINUTES), address) >= TRIES:
        raise _too_many(60 * MINUTES)
    if events.refused_within(db, timedelta(hours=1)) >= TRIES_OF_ALL:
        raise _too_many(3600)


def is_in(db: sqlite3.Connection, token: str) -> str | None:
    """The key of the session that a token opens, or none."""
    row = db.execute(
        "SELECT token FROM session WHERE token = ? AND made_at BETWEEN ? AND ?",
        (_key(token), *_open()),
    ).fetchone()
    return None if row is None else str(row["token"])


def sessions(db: sqlite3.Connection) -> list[Session]:
    """The sessions that are open, the newest first."""
    rows = db.execute(
        "SELECT token AS key, made_at, address, browser FROM session "
        "WHERE made_at BETWEEN ? AND ? ORDER BY made_at DESC",
        _open(),
    )
    return [Session(**dict(row)) for row in rows]


def end(db: sqlite3.Connection, key: str, address: str) -> None:
    """End a session."""
    with transaction(db):
        db.execute("DELETE FROM session WHERE token = ?", (key,))
    events.tell(db, "signed out", address)


def _key(token: str) -> str:
    # A token has 256 bits of chance: a plain hash keeps it from whoever reads the file.
    return hashlib.sha256(token.encode()).hexdigest()


def _open() -> tuple[str, str]:
    """Between which times a session was opened that is still open. One that is dated ahead, when
    the clock was, is not."""
    moment = datetime.now(UTC)
    ends = moment - timedelta(hours=HOURS), moment + timedelta(minutes=AHEAD)
    return ends[0].isoformat(timespec="milliseconds"), ends[1].isoformat(timespec="milliseconds")
