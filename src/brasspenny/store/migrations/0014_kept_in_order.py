"""Notes, tags and the archive of trials; photos; read-only links to verdicts; which pennies a headline keeps."""

ID = "CHAR(12) CHARACTER SET ascii COLLATE ascii_bin"
END = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"

COLUMNS = (
    ("trial", "note VARCHAR(2000) NOT NULL DEFAULT ''"),
    ("trial", "tags JSON NOT NULL DEFAULT '[]'"),
    ("trial", "archived_at DATETIME(6) NULL"),
    ("headline", "kept VARCHAR(24) NOT NULL DEFAULT ''"),
    ("headline", "leans VARCHAR(1) NOT NULL DEFAULT ''"),
)

TABLES = (
    f"""photo (id {ID} NOT NULL PRIMARY KEY, rev INT NOT NULL DEFAULT 1, created_at DATETIME(6) NOT NULL, deleted_at DATETIME(6) NULL, run_id {ID} NOT NULL,
        kind VARCHAR(8) NOT NULL, media_type VARCHAR(20) NOT NULL, image MEDIUMBLOB NOT NULL, width INT NOT NULL, height INT NOT NULL, created_by {ID} NULL,
        KEY photo_run (run_id), FOREIGN KEY (run_id) REFERENCES run (id)) {END}""",
    f"""verdict_link (id {ID} NOT NULL PRIMARY KEY, rev INT NOT NULL DEFAULT 1, created_at DATETIME(6) NOT NULL, deleted_at DATETIME(6) NULL, trial_id {ID} NOT NULL,
        token_hash CHAR(64) CHARACTER SET ascii NOT NULL, created_by {ID} NULL, UNIQUE KEY verdict_link_token (token_hash), KEY verdict_link_trial (trial_id),
        FOREIGN KEY (trial_id) REFERENCES trial (id)) {END}""",
)


def up(migrator, db):
    for table, column in COLUMNS:
        db.execute_sql(f"ALTER TABLE {table} ADD COLUMN IF NOT EXISTS {column}")
    for table in TABLES:
        db.execute_sql(f"CREATE TABLE IF NOT EXISTS {table}")
