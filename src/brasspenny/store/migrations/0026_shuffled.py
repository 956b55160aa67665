"""When the servers of a flight were said to be shuffled."""


def up(migrator, db):
    db.execute_sql("ALTER TABLE flight ADD COLUMN IF NOT EXISTS shuffled_at DATETIME(6) NULL AFTER host_tastes")
