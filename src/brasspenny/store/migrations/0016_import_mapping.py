"""How tables that were brought in were read, by their headings."""


def up(migrator, db):
    db.execute_sql(
        "CREATE TABLE IF NOT EXISTS import_mapping (headers_hash CHAR(64) CHARACTER SET ascii NOT NULL PRIMARY KEY, meanings JSON NOT NULL,"
        " at DATETIME(6) NOT NULL) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"
    )
