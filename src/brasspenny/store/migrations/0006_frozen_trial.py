"""What is worked out is kept by the hash of what it rests on; a brew keeps its steps as they were marked, not a sentence about them."""

ID = "CHAR(12) CHARACTER SET ascii COLLATE ascii_bin"
HASH = "CHAR(64) CHARACTER SET ascii COLLATE ascii_bin"
END = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"


def up(migrator, db):
    db.execute_sql("ALTER TABLE run ADD COLUMN IF NOT EXISTS marked JSON NOT NULL DEFAULT '[]'")
    db.execute_sql("DROP TABLE IF EXISTS worked_out")
    db.execute_sql(
        f"""CREATE TABLE IF NOT EXISTS kept (owner {ID} NOT NULL, layer VARCHAR(60) NOT NULL, data_hash {HASH} NOT NULL, payload JSON NOT NULL,
        at DATETIME(6) NOT NULL, PRIMARY KEY (owner, layer)) {END}"""
    )
    db.execute_sql(
        f"""CREATE TABLE IF NOT EXISTS headline (trial_id {ID} NOT NULL PRIMARY KEY, stamp VARCHAR(60) NOT NULL, text VARCHAR(700) NULL,
        FOREIGN KEY (trial_id) REFERENCES trial (id)) {END}"""
    )
