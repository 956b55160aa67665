"""Brews while they are made."""

ID = "CHAR(12) CHARACTER SET ascii COLLATE ascii_bin"


def up(migrator, db):
    db.execute_sql(
        f"""CREATE TABLE IF NOT EXISTS live_brew (id {ID} NOT NULL PRIMARY KEY, rev INT NOT NULL DEFAULT 1, created_at DATETIME(6) NOT NULL,
            deleted_at DATETIME(6) NULL, trial_id {ID} NOT NULL, setup_id {ID} NOT NULL, document JSON NOT NULL, instrument VARCHAR(12) NOT NULL,
            speed INT NOT NULL, seed INT NOT NULL, started_at DATETIME(6) NULL, marks JSON NOT NULL, finished_at DATETIME(6) NULL, run_id {ID} NULL,
            created_by {ID} NULL, KEY live_brew_trial (trial_id, created_at), FOREIGN KEY (trial_id) REFERENCES trial (id),
            FOREIGN KEY (setup_id) REFERENCES setup (id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"""
    )
