"""What earlier panels said of a bench's scatter when a trial was first judged, kept with the trial; and whether a bench's data are made up, which nothing is learnt from."""

TABLE = """CREATE TABLE IF NOT EXISTS learnt_scatter (trial_id CHAR(12) CHARACTER SET ascii COLLATE ascii_bin NOT NULL, passes VARCHAR(80) NOT NULL, flights INT NOT NULL,
    cups INT NOT NULL, log_likelihood TEXT NOT NULL, at DATETIME(6) NOT NULL, PRIMARY KEY (trial_id, passes), FOREIGN KEY (trial_id) REFERENCES trial (id))
    ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"""


def up(migrator, db):
    db.execute_sql(TABLE)
    db.execute_sql("ALTER TABLE trial ADD COLUMN IF NOT EXISTS scatter_from VARCHAR(8) NOT NULL DEFAULT 'own'")
    db.execute_sql("ALTER TABLE bench ADD COLUMN IF NOT EXISTS made_up BOOL NOT NULL DEFAULT 0")
    db.execute_sql("UPDATE bench SET made_up = 1 WHERE RIGHT(DATABASE(), 5) = '_demo' OR RIGHT(DATABASE(), 7) = '_sample'")
