"""Loose brews, what was seen of a brew, how a reading was taken, instrument checks, what was served, and tolerances."""

ID = "CHAR(12) CHARACTER SET ascii COLLATE ascii_bin"

RUN = (
    f"MODIFY trial_id {ID} NULL",
    "ADD COLUMN IF NOT EXISTS observed JSON NOT NULL DEFAULT '{}'",
    "ADD COLUMN IF NOT EXISTS off_plan JSON NOT NULL DEFAULT '[]'",
    "ADD COLUMN IF NOT EXISTS protocol JSON NULL",
    "ADD COLUMN IF NOT EXISTS served JSON NULL",
    "ADD COLUMN IF NOT EXISTS curve JSON NULL",
    "ADD KEY IF NOT EXISTS run_brewed (brewed_at)",
)
LIVE_BREW = (f"MODIFY trial_id {ID} NULL", "ADD COLUMN IF NOT EXISTS mistake VARCHAR(16) NOT NULL DEFAULT ''")
BENCH = (
    "ADD COLUMN IF NOT EXISTS tolerance_g DECIMAL(9,3) NOT NULL DEFAULT 2",
    "ADD COLUMN IF NOT EXISTS tolerance_pct DECIMAL(6,3) NOT NULL DEFAULT 1",
    "ADD COLUMN IF NOT EXISTS tolerance_s DECIMAL(9,1) NOT NULL DEFAULT 5",
    "ADD COLUMN IF NOT EXISTS tolerance_c DECIMAL(5,2) NOT NULL DEFAULT 1",
    "ADD COLUMN IF NOT EXISTS brix_factor DECIMAL(6,3) NOT NULL DEFAULT 0.85",
)


def up(migrator, db):
    for table, changes in (("run", RUN), ("live_brew", LIVE_BREW), ("bench", BENCH), ("setup", (f"MODIFY trial_id {ID} NULL",))):
        for change in changes:
            db.execute_sql(f"ALTER TABLE {table} {change}")
    db.execute_sql("ALTER TABLE flight ADD COLUMN IF NOT EXISTS cup_readings JSON NOT NULL DEFAULT '[]'")
    db.execute_sql("ALTER TABLE reading ADD COLUMN IF NOT EXISTS as_read JSON NULL")
    db.execute_sql(
        f"""CREATE TABLE IF NOT EXISTS instrument_check (id {ID} NOT NULL PRIMARY KEY, rev INT NOT NULL DEFAULT 1, created_at DATETIME(6) NOT NULL,
            deleted_at DATETIME(6) NULL, checked_at DATETIME(6) NOT NULL, reference_pct DECIMAL(6,3) NOT NULL, read_pct DECIMAL(6,3) NOT NULL,
            note VARCHAR(200) NOT NULL DEFAULT '', created_by {ID} NULL, KEY instrument_check_at (checked_at))
            ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"""
    )
