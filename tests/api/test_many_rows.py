"""Many rows put in by a statement of our own are stored as one by one: same values, same defaults, same documents."""

import random
from datetime import UTC, datetime

from brasspenny.act import Act
from brasspenny.store import connection
from brasspenny.store.models import KitItem, Photo, Reading, Run, Setup, SetupRevision
from brasspenny.store.writing import AT_ONCE, batched, insert

NOW = datetime(2026, 3, 1, 9, 30, 15, 123456, tzinfo=UTC)
HOSTILE = "'); DROP TABLE run; -- “Ångström” % %s \\ \x00 🫘"
DOCUMENTS = ({}, [], {"a": None, "b": [1.5, True], "ü": "☕"}, [{"x": HOSTILE.replace("\x00", "")}], None)


def raw(table, id_):
    cursor = connection.database.execute_sql(f"SELECT * FROM `{table}` WHERE id = %s", (id_,))
    return {c[0]: v for c, v in zip(cursor.description, cursor.fetchone(), strict=True) if c[0] not in ("id", "number")}


def test_a_row_is_the_same_whichever_way_it_was_put_in(app):
    act = Act(None, NOW, random.Random(4))
    with connection.database.connection_context():
        for document in DOCUMENTS:
            setup = Setup.create(id=act.new_id(), trial=None, letter="•", name=HOSTILE.replace("\x00", "")[:80], created_at=NOW)
            revision = SetupRevision.create(
                id=act.new_id(), setup=setup.id, number=1, dose_g=18.123, brew_water_g=290, bypass_g=0, created_at=NOW, recipe=document
            )
            values = {
                "setup": setup.id, "setup_revision": revision.id, "brewed_at": NOW, "dose_g": 18.12345, "brew_water_g": None, "bypass_g": 0.1, "moisture_pct": 0,
                "temperature_c": 93.456, "note": HOSTILE.replace("\x00", ""), "curve": document, "tags": ["a"], "created_at": NOW, "total_time_s": 165.44,
            }  # fmt: skip
            one, many, columns = (act.new_id() for _ in range(3))
            Run.create(id=one, number=1, **values)
            insert(Run, [{"id": many, "number": 2, **values}])
            insert(Run, [{"id": columns, "number": 3} | {Run._meta.fields[name].column_name: v for name, v in values.items()}])
            assert raw("run", many) == raw("run", one) == raw("run", columns)
            assert Run.get_by_id(many).curve == document and Run.get_by_id(many).observed == {} and Run.get_by_id(many).rev == 1


def test_defaults_are_each_rows_own_and_more_rows_than_one_statement_takes_all_come(app):
    act = Act(None, NOW, random.Random(5))
    ids = [act.new_id() for _ in range(2 * AT_ONCE + 3)]
    with connection.database.connection_context():
        insert(KitItem, ({"id": id_, "kind": "filter", "name": f"F {i}", "created_at": NOW} for i, id_ in enumerate(ids)))
        assert KitItem.select().count() == len(ids) and {k.facts == {} for k in KitItem.select().limit(3)} == {True}
        insert(Reading, [])
    assert [len(some) for some in batched(ids)] == [AT_ONCE, AT_ONCE, 3]


def test_many_pictures_are_no_more_than_a_database_takes_in_one_statement(app):
    act = Act(None, NOW, random.Random(5))
    with connection.database.connection_context():
        (packet,) = connection.database.execute_sql("SELECT @@max_allowed_packet").fetchone()
        setup = Setup.create(id=act.new_id(), trial=None, letter="•", name="Cup", created_at=NOW)
        revision = SetupRevision.create(id=act.new_id(), setup=setup.id, number=1, dose_g=18, brew_water_g=290, bypass_g=0, created_at=NOW)
        run = Run.create(
            id=act.new_id(), setup=setup.id, setup_revision=revision.id, number=1, brewed_at=NOW, dose_g=18, bypass_g=0, moisture_pct=0, created_at=NOW
        )
        image = act.rng.randbytes(1_000_000)
        of = {"run": run.id, "kind": "bed", "media_type": "image/jpeg", "image": image, "width": 9, "height": 9, "created_at": NOW}
        count = packet // len(image) + 2
        insert(Photo, ({"id": act.new_id(), **of} for _ in range(count)))
        assert Photo.select().count() == count
        assert bytes(Photo.select().first().image) == image
