"""The scale leads a brew: what it says is kept while the brew is made; the end of a brew is marked by that name; any brew may be liked."""

ID = "CHAR(12) CHARACTER SET ascii COLLATE ascii_bin"


def up(migrator, db):
    db.execute_sql("ALTER TABLE live_brew ADD COLUMN IF NOT EXISTS begins_after_s DOUBLE NULL")
    db.execute_sql(
        f"""CREATE TABLE IF NOT EXISTS live_reading (id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY, live_brew_id {ID} NOT NULL, number INT NOT NULL, points JSON NOT NULL,
        UNIQUE KEY live_reading_once (live_brew_id, number), FOREIGN KEY (live_brew_id) REFERENCES live_brew (id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"""
    )
    db.execute_sql("""UPDATE live_brew SET marks = REPLACE(marks, '"drips_stopped"', '"ended"')""")
    db.execute_sql("ALTER TABLE bench ADD COLUMN IF NOT EXISTS scale_address VARCHAR(60) NOT NULL DEFAULT ''")
    db.execute_sql("ALTER TABLE run ADD COLUMN IF NOT EXISTS liked JSON NULL")
