"""Rows that could not be read, and the units that were set aside for them."""

ID = "CHAR(12) CHARACTER SET ascii COLLATE ascii_bin"


def up(migrator, db):
    db.execute_sql(
        f"CREATE TABLE IF NOT EXISTS damaged_row (id {ID} NOT NULL PRIMARY KEY, unit_kind VARCHAR(24) NOT NULL, unit_id {ID} NOT NULL, name VARCHAR(300) NOT NULL,"
        " kind VARCHAR(24) NOT NULL, row_key VARCHAR(120) NOT NULL, `column` VARCHAR(40) NOT NULL, why VARCHAR(300) NOT NULL, was LONGTEXT NULL, set_aside_at DATETIME(6) NOT NULL)"
        " ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"
    )
