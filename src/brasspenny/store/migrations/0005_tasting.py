"""Methods, passes, rounds, the runner's sealed key, late scores and what happens at the table."""

ID = "CHAR(12) CHARACTER SET ascii COLLATE ascii_bin"
HASH = "CHAR(64) CHARACTER SET ascii COLLATE ascii_bin"
UUID = "CHAR(36) CHARACTER SET ascii COLLATE ascii_bin"
END = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"

FLIGHT = (
    "ADD COLUMN IF NOT EXISTS method VARCHAR(12) NOT NULL DEFAULT 'scores'",
    """ADD COLUMN IF NOT EXISTS passes JSON NOT NULL DEFAULT '[""]'""",
    "ADD COLUMN IF NOT EXISTS opened JSON NOT NULL DEFAULT '{}'",
    "ADD COLUMN IF NOT EXISTS options JSON NOT NULL DEFAULT '{}'",
    "ADD COLUMN IF NOT EXISTS host_tastes TINYINT(1) NOT NULL DEFAULT 0",
)
SCORE_KEY = (
    "ADD COLUMN IF NOT EXISTS pass_name VARCHAR(8) NOT NULL DEFAULT ''",
    "ADD UNIQUE KEY IF NOT EXISTS score_cell_pass (sheet_id, cup_id, attribute, pass_name)",
    "DROP KEY IF EXISTS score_cell",
)
TABLES = (
    f"""seal (flight_id {ID} NOT NULL PRIMARY KEY, commitment {HASH} NOT NULL, token_hash {HASH} NOT NULL UNIQUE, locked_key TEXT NOT NULL,
        device_hash {HASH} NULL, opened_at DATETIME(6) NULL, seen_by_host_at DATETIME(6) NULL, broken_at DATETIME(6) NULL, nonce {HASH} NULL,
        FOREIGN KEY (flight_id) REFERENCES flight (id))""",
    f"""late_score (id {ID} NOT NULL PRIMARY KEY, sheet_id {ID} NOT NULL, cup_id {ID} NOT NULL, attribute VARCHAR(24) NOT NULL,
        pass_name VARCHAR(8) NOT NULL DEFAULT '', value DECIMAL(4,2) NULL, text VARCHAR(500) NOT NULL, uuid {UUID} NOT NULL UNIQUE,
        seq INT NOT NULL, received_at DATETIME(6) NOT NULL, KEY late_score_sheet (sheet_id),
        FOREIGN KEY (sheet_id) REFERENCES sheet (id), FOREIGN KEY (cup_id) REFERENCES flight_cup (id))""",
    f"""worked_out (trial_id {ID} NOT NULL, kind VARCHAR(40) NOT NULL, data_hash {HASH} NOT NULL, payload JSON NOT NULL, at DATETIME(6) NOT NULL,
        PRIMARY KEY (trial_id, kind), FOREIGN KEY (trial_id) REFERENCES trial (id))""",
    f"""event (id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY, flight_id {ID} NOT NULL, kind VARCHAR(12) NOT NULL, at DATETIME(6) NOT NULL,
        KEY event_flight (flight_id, id), FOREIGN KEY (flight_id) REFERENCES flight (id))""",
)


def up(migrator, db):
    for table in TABLES:
        db.execute_sql(f"CREATE TABLE IF NOT EXISTS {table} {END}")
    for table, changes in (("flight", FLIGHT), ("score", SCORE_KEY)):
        for change in changes:
            db.execute_sql(f"ALTER TABLE {table} {change}")
    for table in ("flight_brew", "flight_cup"):
        db.execute_sql(f"ALTER TABLE {table} ADD COLUMN IF NOT EXISTS round_no INT NOT NULL DEFAULT 1")
    db.execute_sql("ALTER TABLE flight_cup ADD COLUMN IF NOT EXISTS mark INT NULL")
    db.execute_sql("ALTER TABLE flight_brew ADD KEY IF NOT EXISTS flight_brew_flight (flight_id)")
    db.execute_sql("ALTER TABLE flight_brew DROP KEY IF EXISTS flight_brew_run")
    db.execute_sql("ALTER TABLE sheet ADD COLUMN IF NOT EXISTS late TINYINT(1) NOT NULL DEFAULT 0")
    db.execute_sql("ALTER TABLE sheet ADD COLUMN IF NOT EXISTS left_at DATETIME(6) NULL")
