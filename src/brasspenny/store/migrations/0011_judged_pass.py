"""A trial is judged by the pass people drink the coffee at."""


def up(migrator, db):
    db.execute_sql("ALTER TABLE trial ADD COLUMN IF NOT EXISTS judged_pass VARCHAR(8) NOT NULL DEFAULT 'mean'")
