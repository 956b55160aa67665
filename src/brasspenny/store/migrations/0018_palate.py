"""Palate: sessions of known steps, seats, presentations."""

ID = "CHAR(12) CHARACTER SET ascii COLLATE ascii_bin"
HASH = "CHAR(64) CHARACTER SET ascii"
END = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"

TABLES = (
    f"""palate_session (id {ID} NOT NULL PRIMARY KEY, rev INT NOT NULL DEFAULT 1, created_at DATETIME(6) NOT NULL, deleted_at DATETIME(6) NULL, axis VARCHAR(12) NOT NULL,
        method VARCHAR(12) NOT NULL, choice VARCHAR(12) NOT NULL, way VARCHAR(12) NOT NULL, served VARCHAR(80) NOT NULL, tds_pct DECIMAL(6,3) NULL,
        serve_g DECIMAL(9,3) NOT NULL, cup_g DECIMAL(9,3) NOT NULL, steps JSON NOT NULL, helper_hash {HASH} NULL, device_hash {HASH} NULL, closed_at DATETIME(6) NULL,
        created_by {ID} NULL, UNIQUE KEY palate_helper (helper_hash), KEY palate_made (created_at)) {END}""",
    f"""palate_seat (id {ID} NOT NULL PRIMARY KEY, session_id {ID} NOT NULL, person_id {ID} NOT NULL, token_hash {HASH} NOT NULL, created_at DATETIME(6) NOT NULL,
        UNIQUE KEY palate_seat_token (token_hash), UNIQUE KEY palate_seat_person (session_id, person_id), KEY palate_seat_of (person_id),
        FOREIGN KEY (session_id) REFERENCES palate_session (id), FOREIGN KEY (person_id) REFERENCES person (id)) {END}""",
    f"""palate_presentation (id {ID} NOT NULL PRIMARY KEY, seat_id {ID} NOT NULL, number INT NOT NULL, step DECIMAL(9,3) NOT NULL, codes JSON NOT NULL, place INT NULL,
        odd_is_more BOOL NOT NULL DEFAULT 1, served_at DATETIME(6) NOT NULL, picked INT NULL, picked_at DATETIME(6) NULL, `right` BOOL NULL,
        UNIQUE KEY palate_number (seat_id, number), FOREIGN KEY (seat_id) REFERENCES palate_seat (id)) {END}""",
)


def up(migrator, db):
    # A hat is worn in a session of the palate room as in a flight. A note that pointed at no flight was left out without a word: an insert that ignores what is there
    # already ignores that too.
    db.execute_sql("ALTER TABLE device_hat DROP FOREIGN KEY IF EXISTS device_hat_ibfk_1")
    for table in TABLES:
        db.execute_sql(f"CREATE TABLE IF NOT EXISTS {table}")
