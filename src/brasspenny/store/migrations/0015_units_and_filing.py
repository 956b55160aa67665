"""The units a bench has its figures told in; tags and the archive of brews."""

COLUMNS = (
    ("bench", "heat_unit CHAR(1) NOT NULL DEFAULT 'C'"),
    ("bench", "ratio_unit VARCHAR(8) NOT NULL DEFAULT 'to_one'"),
    ("bench", "bag_unit VARCHAR(2) NOT NULL DEFAULT 'g'"),
    ("bench", "currency VARCHAR(4) NOT NULL DEFAULT ''"),
    ("run", "tags JSON NOT NULL DEFAULT '[]'"),
    ("run", "archived_at DATETIME(6) NULL"),
)


def up(migrator, db):
    for table, column in COLUMNS:
        db.execute_sql(f"ALTER TABLE {table} ADD COLUMN IF NOT EXISTS {column}")
