"""Keys in the addresses that the start command prints: each lets one browser in, once."""


def up(migrator, db):
    db.execute_sql(
        "CREATE TABLE IF NOT EXISTS opening_key (token_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY, made_at DATETIME(6) NOT NULL)"
        " ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"
    )
