"""The first tables. A migration never imports our models: it must mean the same in ten years."""

ID = "CHAR(12) CHARACTER SET ascii COLLATE ascii_bin"
END = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"
EDITABLE = f"id {ID} NOT NULL PRIMARY KEY, rev INT NOT NULL DEFAULT 1, created_at DATETIME(6) NOT NULL, deleted_at DATETIME(6) NULL"

TABLES = (
    f"""bench (id SMALLINT NOT NULL PRIMARY KEY, name VARCHAR(120) NOT NULL,
        accuracy_pct DECIMAL(6,3) NOT NULL, resolution_pct DECIMAL(6,3) NOT NULL, scale_resolution_g DECIMAL(9,3) NOT NULL,
        passphrase_hash VARCHAR(255) NULL, rev INT NOT NULL DEFAULT 1) {END}""",
    f"person ({EDITABLE}, name VARCHAR(80) NOT NULL) {END}",
    f"""kit_item (id {ID} NOT NULL PRIMARY KEY, kind VARCHAR(16) NOT NULL, name VARCHAR(120) NOT NULL,
        brewer_type VARCHAR(24) NULL, created_at DATETIME(6) NOT NULL, UNIQUE KEY kit_item_kind_name (kind, name)) {END}""",
    f"""trial ({EDITABLE}, number INT NOT NULL UNIQUE, question VARCHAR(200) NOT NULL, factor VARCHAR(24) NOT NULL,
        factor_other VARCHAR(80) NOT NULL, school VARCHAR(16) NULL, strength_policy VARCHAR(16) NOT NULL,
        smallest_difference DECIMAL(4,2) NOT NULL, created_by {ID} NULL) {END}""",
    f"""declaration (id {ID} NOT NULL PRIMARY KEY, trial_id {ID} NOT NULL, field VARCHAR(24) NOT NULL, rule VARCHAR(24) NOT NULL,
        created_at DATETIME(6) NOT NULL, UNIQUE KEY declaration_trial_field (trial_id, field),
        FOREIGN KEY (trial_id) REFERENCES trial (id)) {END}""",
    f"""setup ({EDITABLE}, trial_id {ID} NOT NULL, letter CHAR(1) NOT NULL, name VARCHAR(80) NOT NULL, revision_id {ID} NULL,
        KEY setup_trial (trial_id), FOREIGN KEY (trial_id) REFERENCES trial (id)) {END}""",
    f"""setup_revision (id {ID} NOT NULL PRIMARY KEY, setup_id {ID} NOT NULL, number INT NOT NULL,
        coffee VARCHAR(120) NOT NULL, grinder VARCHAR(120) NOT NULL, grind_setting VARCHAR(40) NOT NULL, filter VARCHAR(120) NOT NULL,
        brewer VARCHAR(120) NOT NULL, brewer_type VARCHAR(24) NULL, water VARCHAR(120) NOT NULL, temperature_c DECIMAL(5,2) NULL,
        dose_g DECIMAL(9,3) NOT NULL, brew_water_g DECIMAL(9,3) NOT NULL, bypass_g DECIMAL(9,3) NOT NULL,
        pours VARCHAR(300) NOT NULL, other VARCHAR(120) NOT NULL, created_at DATETIME(6) NOT NULL,
        UNIQUE KEY setup_revision_number (setup_id, number), FOREIGN KEY (setup_id) REFERENCES setup (id)) {END}""",
    f"""run ({EDITABLE}, trial_id {ID} NOT NULL, setup_id {ID} NOT NULL, setup_revision_id {ID} NOT NULL, number INT NOT NULL,
        brewed_at DATETIME(6) NOT NULL, dose_g DECIMAL(9,3) NOT NULL, brew_water_g DECIMAL(9,3) NULL, bypass_g DECIMAL(9,3) NOT NULL,
        beverage_g DECIMAL(9,3) NULL, temperature_c DECIMAL(5,2) NULL, pour_end_s DECIMAL(7,1) NULL, total_time_s DECIMAL(7,1) NULL,
        moisture_pct DECIMAL(6,3) NOT NULL, concentrate TINYINT(1) NOT NULL, note VARCHAR(500) NOT NULL, created_by {ID} NULL,
        KEY run_trial (trial_id, brewed_at), FOREIGN KEY (trial_id) REFERENCES trial (id), FOREIGN KEY (setup_id) REFERENCES setup (id),
        FOREIGN KEY (setup_revision_id) REFERENCES setup_revision (id)) {END}""",
    f"""reading ({EDITABLE}, run_id {ID} NOT NULL, tds_pct DECIMAL(6,3) NOT NULL, source VARCHAR(12) NOT NULL, taken_at DATETIME(6) NOT NULL,
        created_by {ID} NULL, FOREIGN KEY (run_id) REFERENCES run (id)) {END}""",
    f"""flight ({EDITABLE}, trial_id {ID} NOT NULL, number INT NOT NULL, blinding VARCHAR(12) NOT NULL, status VARCHAR(12) NOT NULL,
        attributes JSON NOT NULL, cup_temperature_c DECIMAL(5,2) NULL, closed_at DATETIME(6) NULL, flipped_at DATETIME(6) NULL,
        created_by {ID} NULL, UNIQUE KEY flight_number (trial_id, number), FOREIGN KEY (trial_id) REFERENCES trial (id)) {END}""",
    f"""flight_brew (id {ID} NOT NULL PRIMARY KEY, flight_id {ID} NOT NULL, run_id {ID} NOT NULL, mark INT NOT NULL,
        UNIQUE KEY flight_brew_run (flight_id, run_id), UNIQUE KEY flight_brew_mark (flight_id, mark),
        FOREIGN KEY (flight_id) REFERENCES flight (id), FOREIGN KEY (run_id) REFERENCES run (id)) {END}""",
    f"""flight_cup (id {ID} NOT NULL PRIMARY KEY, flight_id {ID} NOT NULL, code CHAR(3) NOT NULL, run_id {ID} NULL,
        UNIQUE KEY flight_cup_code (flight_id, code), FOREIGN KEY (flight_id) REFERENCES flight (id),
        FOREIGN KEY (run_id) REFERENCES run (id)) {END}""",
    f"""sheet (id {ID} NOT NULL PRIMARY KEY, flight_id {ID} NOT NULL, person_id {ID} NOT NULL, issue INT NOT NULL,
        token_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL UNIQUE, revoked_at DATETIME(6) NULL, created_at DATETIME(6) NOT NULL,
        UNIQUE KEY sheet_person (flight_id, person_id), FOREIGN KEY (flight_id) REFERENCES flight (id),
        FOREIGN KEY (person_id) REFERENCES person (id)) {END}""",
    f"""sheet_cup (id {ID} NOT NULL PRIMARY KEY, sheet_id {ID} NOT NULL, cup_id {ID} NOT NULL, position INT NOT NULL,
        UNIQUE KEY sheet_cup_cup (sheet_id, cup_id), FOREIGN KEY (sheet_id) REFERENCES sheet (id),
        FOREIGN KEY (cup_id) REFERENCES flight_cup (id)) {END}""",
    f"""score (id {ID} NOT NULL PRIMARY KEY, sheet_id {ID} NOT NULL, cup_id {ID} NOT NULL, attribute VARCHAR(24) NOT NULL,
        value DECIMAL(4,2) NULL, text VARCHAR(500) NOT NULL, uuid CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL, seq INT NOT NULL,
        received_at DATETIME(6) NOT NULL, UNIQUE KEY score_cell (sheet_id, cup_id, attribute),
        FOREIGN KEY (sheet_id) REFERENCES sheet (id), FOREIGN KEY (cup_id) REFERENCES flight_cup (id)) {END}""",
    f"""stored_verdict (id {ID} NOT NULL PRIMARY KEY, trial_id {ID} NOT NULL, sighted TINYINT(1) NOT NULL,
        data_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL, headline VARCHAR(600) NOT NULL, payload JSON NOT NULL, judged_at DATETIME(6) NOT NULL,
        UNIQUE KEY stored_verdict_hash (trial_id, sighted, data_hash), FOREIGN KEY (trial_id) REFERENCES trial (id)) {END}""",
    f"""`change` (id {ID} NOT NULL PRIMARY KEY, trial_id {ID} NULL, entity VARCHAR(24) NOT NULL, entity_id {ID} NOT NULL,
        action VARCHAR(24) NOT NULL, `before` JSON NULL, after JSON NULL, who {ID} NULL, at DATETIME(6) NOT NULL, undoes {ID} NULL,
        KEY change_trial (trial_id, at), KEY change_entity (entity, entity_id, at)) {END}""",
)


def up(migrator, db):
    for table in TABLES:
        db.execute_sql(f"CREATE TABLE IF NOT EXISTS {table}")
    db.execute_sql("INSERT IGNORE INTO bench (id, name, accuracy_pct, resolution_pct, scale_resolution_g, rev) VALUES (1, 'Our bench', 0.03, 0.01, 0.1, 1)")
