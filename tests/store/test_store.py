"""The kit's file: every older schema comes up to date, nothing is lost, bad files are one sentence."""

import sqlite3
from dataclasses import replace
from datetime import date

import pytest

from pennello.errors import FileProblemError
from pennello.kit.applicator import Applicator, ApplicatorKind
from pennello.kit.cake import Cake, Portion, Stripe
from pennello.kit.paint import Finish, Paint
from pennello.kit.shelf import ItemKind, Keeping, Kit, KitItem
from pennello.session.kit import KitSession, shipped_kit
from pennello.store.database import version_of
from pennello.store.kit_store import KitStore
from pennello.store.migrations import MIGRATIONS

PAINT = Paint("p", "Pine", "#3f7d2c", 0.8, 25.0, 1.2, Finish.PEARL, False, False, True, tuple([0.25] * 36))
CAKE = Cake("c", "Cake", (Stripe("p", 5.0, 1.5, (Portion("q", 2.5),)), Stripe("q", 7.25)), 0.4, 50, 9, ombre=True)
BRUSH = Applicator("b", "Brush", 9.5, ApplicatorKind.PETAL_BRUSH, 8.0, own=("fill_passes", "drift_mm"))
KEPT = Keeping(date(2026, 1, 2), date(2027, 3, 4), True, 12.5, "from the drawer")


def kit_of(*items):
    return Kit().with_items(items)


def old_file(path, version):
    """Make a file as an earlier program left it: its schema, and a paint, a cake and a brush in it."""
    connection = sqlite3.connect(path)
    for number in range(version):
        connection.executescript(MIGRATIONS[number])
    connection.execute(f"PRAGMA user_version = {version}")
    connection.execute("INSERT INTO paints (id, position, name, srgb, contrast) VALUES ('p', 1, 'Old', '#102030', 0.9)")
    connection.execute("INSERT INTO paints (id, position, name, srgb) VALUES ('q', 2, 'Older', '#f0f0f0')")
    connection.execute("INSERT INTO cakes (id, position, name) VALUES ('c', 1, 'Old cake')")
    connection.executemany(
        "INSERT INTO stripes (cake, position, paint, width_mm) VALUES ('c', ?, ?, ?)", [(0, "p", 6.0), (1, "q", 8.0)]
    )
    connection.execute("INSERT INTO brushes (id, position, name, width_mm) VALUES ('b', 1, 'Old brush', 19.05)")
    connection.commit()
    connection.close()


@pytest.mark.parametrize("version", range(1, len(MIGRATIONS) + 1))
def test_every_older_schema_comes_up_to_date(tmp_path, version):
    path = tmp_path / "kit.sqlite"
    old_file(path, version)
    store = KitStore(path)
    kit = store.read()
    assert version_of(store._connection) == len(MIGRATIONS)
    assert kit.paints["p"] == Paint("p", "Old", "#102030", 0.9)
    assert kit.items[(ItemKind.CAKE, "c")].thing == Cake("c", "Old cake", (Stripe("p", 6.0), Stripe("q", 8.0)))
    assert kit.items[(ItemKind.BRUSH, "b")].thing == Applicator("b", "Old brush", 19.05, capacity_mm3_per_mm=3.0)
    assert all(item.keeping == Keeping() for item in kit)
    store.close()
    backup = path.with_name(f"kit.sqlite.v{version}.bak")
    assert backup.exists() is (version < len(MIGRATIONS))


def test_all_of_a_kit_comes_back(tmp_path):
    items = [KitItem(PAINT, KEPT), KitItem(Paint("q", "Q", "#ffffff")), KitItem(CAKE, KEPT), KitItem(BRUSH, KEPT)]
    store = KitStore(tmp_path / "kit.sqlite")
    store.write(items)
    store.close()
    store = KitStore(tmp_path / "kit.sqlite")
    assert list(store.read()) == items
    changed = replace(items[2], thing=replace(CAKE, stripes=CAKE.stripes[::-1]))
    store.write([changed], [(ItemKind.BRUSH, "b")])
    assert list(store.read()) == [items[0], items[1], changed]
    store.close()


def test_shipped_kit_survives(tmp_path):
    store = KitStore(tmp_path / "kit.sqlite")
    store.write(shipped_kit())
    assert store.read().items == shipped_kit().items
    store.close()


def test_a_newer_file_is_refused_and_untouched(tmp_path):
    path = tmp_path / "kit.sqlite"
    KitStore(path).close()
    connection = sqlite3.connect(path)
    connection.execute("PRAGMA user_version = 99")
    connection.close()
    before = path.read_bytes()
    with pytest.raises(FileProblemError, match="newer Pennello"):
        KitStore(path)
    assert path.read_bytes() == before


def test_bad_files_are_one_sentence(tmp_path):
    path = tmp_path / "kit.sqlite"
    path.write_bytes(b"this is no database, it only looks like a file" * 40)
    with pytest.raises(FileProblemError, match="not a kit of Pennello"):
        KitStore(path)
    with pytest.raises(FileProblemError, match="cannot be opened"):
        KitStore(tmp_path)
    good = tmp_path / "good.sqlite"
    old_file(good, len(MIGRATIONS))
    connection = sqlite3.connect(good)
    connection.execute("UPDATE paints SET srgb = 'pink' WHERE id = 'p'")
    connection.commit()
    connection.close()
    store = KitStore(good)
    with pytest.raises(FileProblemError, match="paint 'p'"):
        store.read()
    store.close()


def test_a_write_is_whole_or_not_at_all(tmp_path):
    store = KitStore(tmp_path / "kit.sqlite")
    store.write([KitItem(PAINT)])
    store._connection.execute("CREATE TRIGGER no BEFORE INSERT ON cakes BEGIN SELECT RAISE(ABORT, 'full'); END")
    with pytest.raises(FileProblemError, match="nothing was changed"):
        store.write([KitItem(Paint("q", "Q", "#ffffff")), KitItem(CAKE)])
    assert list(store.read()) == [KitItem(PAINT)]
    store.close()


def test_a_kit_whose_reading_is_stopped_is_let_go_of(tmp_path, monkeypatch):
    """A worker may be stopped in the midst: what it raises comes out of anything, and the file is closed first."""
    stores = []

    def stopped(store):
        stores.append(store)
        raise KeyboardInterrupt

    monkeypatch.setattr(KitStore, "read", stopped)
    with pytest.raises(KeyboardInterrupt):
        KitSession(tmp_path / "kit.sqlite")
    with pytest.raises(sqlite3.ProgrammingError, match="closed"):
        stores[0]._connection.execute("SELECT 1")
