"""Sieve samples, doses and tests of flow; what a sieve match rests on; grams of a sample in a plan; how long kit that lasts is counted on."""

ID = "CHAR(12) CHARACTER SET ascii COLLATE ascii_bin"
END = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"
EDITABLE = f"id {ID} NOT NULL PRIMARY KEY, rev INT NOT NULL DEFAULT 1, created_at DATETIME(6) NOT NULL, deleted_at DATETIME(6) NULL"
MASS, SECONDS = "DECIMAL(9,3)", "DECIMAL(7,1)"

COLUMNS = (
    ("matched_setting", "rests_on JSON NULL"),
    ("live_brew", "grind JSON NULL"),
    ("plan", f"sieve_sample_g {MASS} NOT NULL DEFAULT 10"),
    ("bench", "kit_lasts_years DECIMAL(4,2) NOT NULL DEFAULT 5"),
    ("bench", "cups_a_day DECIMAL(4,2) NOT NULL DEFAULT 2"),
)

TABLES = (
    f"""sieve_sample ({EDITABLE}, dial_id {ID} NOT NULL, setting {MASS} NOT NULL, coffee_id {ID} NULL, stack_id {ID} NULL, mass_in_g {MASS} NOT NULL, fractions JSON NOT NULL,
        scale_step_g {MASS} NOT NULL, shaken_s {SECONDS} NULL, shaken_how VARCHAR(80) NOT NULL, replicate INT NOT NULL, source VARCHAR(12) NOT NULL, sampled_on DATE NOT NULL,
        note VARCHAR(200) NOT NULL, created_by {ID} NULL, KEY sieve_sample_dial (dial_id, setting), KEY sieve_sample_coffee (coffee_id),
        FOREIGN KEY (dial_id) REFERENCES kit_item (id), FOREIGN KEY (coffee_id) REFERENCES kit_item (id), FOREIGN KEY (stack_id) REFERENCES kit_item (id)) {END}""",
    f"""grinder_dose ({EDITABLE}, dial_id {ID} NOT NULL, setting {MASS} NULL, feeding VARCHAR(12) NOT NULL, beans_in_g {MASS} NOT NULL, ground_out_g {MASS} NULL,
        grinding_s {SECONDS} NULL, knocked_out_g {MASS} NULL, next_in_g {MASS} NULL, next_out_g {MASS} NULL, chaff INT NULL, mess INT NULL, note VARCHAR(200) NOT NULL,
        source VARCHAR(12) NOT NULL, at DATETIME(6) NOT NULL, created_by {ID} NULL, KEY grinder_dose_dial (dial_id, at), FOREIGN KEY (dial_id) REFERENCES kit_item (id)) {END}""",
    f"""filter_test ({EDITABLE}, filter_id {ID} NOT NULL, push VARCHAR(8) NOT NULL, size {MASS} NOT NULL, water_g {MASS} NOT NULL, seconds {SECONDS} NOT NULL, dry_g {MASS} NULL,
        wet_g {MASS} NULL, sediment INT NULL, note VARCHAR(200) NOT NULL, source VARCHAR(12) NOT NULL, at DATETIME(6) NOT NULL, created_by {ID} NULL,
        KEY filter_test_filter (filter_id, at), FOREIGN KEY (filter_id) REFERENCES kit_item (id)) {END}""",
)


def up(migrator, db):
    for table, column in COLUMNS:
        db.execute_sql(f"ALTER TABLE {table} ADD COLUMN IF NOT EXISTS {column}")
    for table in TABLES:
        db.execute_sql(f"CREATE TABLE IF NOT EXISTS {table}")
