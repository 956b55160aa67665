"""Tokens by which a script reads the bench, or writes to it."""

ID = "CHAR(12) CHARACTER SET ascii COLLATE ascii_bin"


def up(migrator, db):
    db.execute_sql(
        f"CREATE TABLE IF NOT EXISTS script_token (id {ID} NOT NULL PRIMARY KEY, name VARCHAR(80) NOT NULL, token_hash CHAR(64) CHARACTER SET ascii NOT NULL,"
        " may_write BOOL NOT NULL DEFAULT 0, created_at DATETIME(6) NOT NULL, used_at DATETIME(6) NULL, revoked_at DATETIME(6) NULL,"
        " UNIQUE KEY script_token_hash (token_hash)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"
    )
