"""Drills of the palate room, and their rounds."""

ID = "CHAR(12) CHARACTER SET ascii COLLATE ascii_bin"
END = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"

TABLES = (
    f"""palate_drill (id {ID} NOT NULL PRIMARY KEY, rev INT NOT NULL DEFAULT 1, created_at DATETIME(6) NOT NULL, deleted_at DATETIME(6) NULL, person_id {ID} NOT NULL,
        kind VARCHAR(12) NOT NULL, cups JSON NOT NULL, created_by {ID} NULL, KEY palate_drill_of (person_id, created_at), FOREIGN KEY (person_id) REFERENCES person (id)) {END}""",
    f"""palate_drill_round (id {ID} NOT NULL PRIMARY KEY, drill_id {ID} NOT NULL, number INT NOT NULL, set_out JSON NOT NULL, answer JSON NULL, marks JSON NULL, score INT NULL,
        began_at DATETIME(6) NOT NULL, turned_at DATETIME(6) NULL, UNIQUE KEY palate_drill_number (drill_id, number), FOREIGN KEY (drill_id) REFERENCES palate_drill (id)) {END}""",
)


def up(migrator, db):
    for table in TABLES:
        db.execute_sql(f"CREATE TABLE IF NOT EXISTS {table}")
