"""Who may come in: a passphrase, sessions that end, and a lock against guessing."""

from contextlib import closing
from datetime import UTC, datetime, timedelta
from unittest import mock

from calm_basin.store import door, events
from tests.store.test_jobs import StoreCase

RIGHT = "four words not together"


class DoorTest(StoreCase):
    def setUp(self) -> None:
        super().setUp()
        door.set_passphrase(self.db, RIGHT)

    def came_in(self, address: str = "10.0.0.9") -> str:
        token = door.sign_in(self.db, RIGHT, address, "a browser")
        assert token is not None
        return token

    def test_the_file_holds_neither_passphrase_nor_token(self) -> None:
        token = self.came_in()
        self.db.execute("PRAGMA wal_checkpoint(TRUNCATE)").fetchall()
        text = self.path.read_bytes()
        self.assertNotIn(RIGHT.encode(), text)
        self.assertNotIn(token.encode(), text)
        # RFC 9106 section 7.4, second recommended option: argon2id, t = 3, m = 64 MiB, p = 4.
        self.assertIn(b"$argon2id$v=19$m=65536,t=3,p=4$", text)

    def test_passphrases_that_are_too_short_or_guessed_at_once(self) -> None:
        for passphrase in ("short", "x" * 129, "aaaaaaaaaaaaaaaa"):
            with self.assertRaises(door.PassphraseError):
                door.set_passphrase(self.db, passphrase)
        self.assertIsNotNone(door.sign_in(self.db, RIGHT, "here", ""))

    def test_a_session_ends_by_time_by_hand_and_by_a_new_passphrase(self) -> None:
        first, second, third = (self.came_in() for _ in range(3))
        self.assertEqual(len({first, second, third}), 3)
        key = door.is_in(self.db, first)
        assert key is not None
        door.end(self.db, key, "here")
        self.assertIsNone(door.is_in(self.db, first))
        old = (datetime.now(UTC) - timedelta(hours=13)).isoformat()
        self.db.execute(
            "UPDATE session SET made_at = ? WHERE token = ?", (old, door.is_in(self.db, second))
        )
        self.assertIsNone(door.is_in(self.db, second))
        self.assertEqual(len(door.sessions(self.db)), 1)
        door.set_passphrase(self.db, "another four words apart")
        self.assertIsNone(door.is_in(self.db, third))
        self.assertIsNone(door.sign_in(self.db, RIGHT, "here", ""))

    def test_five_wrong_ones_lock_an_address_out_and_a_while_lets_it_in_again(self) -> None:
        for _ in range(door.TRIES):
            self.assertIsNone(door.sign_in(self.db, "not this one at all", "10.0.0.1", ""))
        with self.assertRaises(door.LockedOutError):
            door.sign_in(self.db, RIGHT, "10.0.0.1", "")
        self.assertIsNotNone(door.sign_in(self.db, RIGHT, "10.0.0.2", ""))
        past = (datetime.now(UTC) - timedelta(minutes=door.MINUTES + 1)).isoformat()
        self.db.execute("UPDATE event SET at = ? WHERE kind = 'refused'", (past,))
        self.assertIsNotNone(door.sign_in(self.db, RIGHT, "10.0.0.1", ""))

    def test_guessing_from_many_addresses_locks_all_out(self) -> None:
        with mock.patch.object(door, "_HASHER") as hasher:
            hasher.verify.side_effect = door.argon2.exceptions.VerifyMismatchError
            for i in range(door.TRIES_OF_ALL):
                door.sign_in(self.db, "not this one at all", f"10.0.0.{i}", "")
        with self.assertRaises(door.LockedOutError) as caught:
            door.sign_in(self.db, RIGHT, "10.0.1.1", "")
        self.assertEqual(caught.exception.seconds, 3600)

    def test_what_happens_at_the_door_is_written_down(self) -> None:
        token = self.came_in("10.0.0.7")
        door.sign_in(self.db, "not this one at all", "10.0.0.8", "")
        door.end(self.db, door.is_in(self.db, token) or "", "10.0.0.7")
        told = [(event.kind, event.address) for event in events.told(self.db)]
        self.assertEqual(
            told,
            [
                ("signed out", "10.0.0.7"),
                ("refused", "10.0.0.8"),
                ("signed in", "10.0.0.7"),
                ("passphrase", ""),
            ],
        )
        self.db.execute("UPDATE event SET at = '2020-01-01'")
        events.tell(self.db, "deleted", "10.0.0.7", "Weir Cottage")
        self.assertEqual([event.detail for event in events.told(self.db)], ["Weir Cottage"])


class OwnerTest(StoreCase):
    def test_the_database_is_its_owners_alone(self) -> None:
        self.db.execute("CREATE TABLE x (y)")
        for file in self.path.parent.iterdir():
            self.assertEqual(file.stat().st_mode & 0o077, 0, file)

    def test_a_session_is_seen_by_another_connection(self) -> None:
        door.set_passphrase(self.db, RIGHT)
        token = door.sign_in(self.db, RIGHT, "here", "")
        from calm_basin.store.database import connect

        with closing(connect(self.path)) as other:
            self.assertIsNotNone(door.is_in(other, token or ""))
