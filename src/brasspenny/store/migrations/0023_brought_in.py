"""Mark trials that came in by a file, and history that was made on another bench."""


def up(migrator, db):
    db.execute_sql("ALTER TABLE trial ADD COLUMN IF NOT EXISTS brought_in_at DATETIME(6) NULL AFTER archived_at")
    db.execute_sql("ALTER TABLE trial ADD COLUMN IF NOT EXISTS brought_in_from VARCHAR(120) NOT NULL DEFAULT '' AFTER brought_in_at")
    db.execute_sql("ALTER TABLE `change` ADD COLUMN IF NOT EXISTS elsewhere BOOL NOT NULL DEFAULT 0")
