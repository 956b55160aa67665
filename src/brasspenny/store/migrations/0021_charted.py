"""What each brew comes to, kept for the charts. Every brew begins as one that is not worked out."""

ID = "CHAR(12) CHARACTER SET ascii COLLATE ascii_bin"


def up(migrator, db):
    db.execute_sql(
        f"""CREATE TABLE IF NOT EXISTS charted (run_id {ID} NOT NULL PRIMARY KEY, worked_out_by CHAR(16) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT '',
        brewed_at DATETIME(6) NULL, purpose VARCHAR(12) NOT NULL DEFAULT '', coffee VARCHAR(120) NOT NULL DEFAULT '', grinder VARCHAR(120) NOT NULL DEFAULT '',
        brewer VARCHAR(120) NOT NULL DEFAULT '', recipe CHAR(12) NOT NULL DEFAULT '', point TEXT NULL, KEY charted_newest (worked_out_by, brewed_at, run_id),
        KEY charted_facets (worked_out_by, coffee, grinder, brewer, recipe, purpose, brewed_at), FOREIGN KEY (run_id) REFERENCES run (id))
        ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"""
    )
    db.execute_sql("INSERT IGNORE INTO charted (run_id) SELECT id FROM run WHERE deleted_at IS NULL")
