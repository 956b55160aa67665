"""Facts of the kit, stock, matched settings, recipes and their versions, plans and run sheets; what a setup was made of is kept with it."""

ID = "CHAR(12) CHARACTER SET ascii COLLATE ascii_bin"
END = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"
EDITABLE = f"id {ID} NOT NULL PRIMARY KEY, rev INT NOT NULL DEFAULT 1, created_at DATETIME(6) NOT NULL, deleted_at DATETIME(6) NULL"

COLUMNS = (
    ("kit_item", "rev INT NOT NULL DEFAULT 1"),
    ("kit_item", "deleted_at DATETIME(6) NULL"),
    ("kit_item", "retired_at DATETIME(6) NULL"),
    ("kit_item", "facts JSON NOT NULL DEFAULT '{}'"),
    ("bench", "altitude_m INT NOT NULL DEFAULT 0"),
    ("bench", "ambient_c DECIMAL(5,2) NOT NULL DEFAULT 21"),
    ("trial", "further_factors JSON NOT NULL DEFAULT '[]'"),
    ("setup_revision", f"recipe_version_id {ID} NULL"),
    ("setup_revision", "recipe JSON NULL"),
    ("setup_revision", "kit JSON NULL"),
    ("run", "purpose VARCHAR(12) NOT NULL DEFAULT 'evidence'"),
)

TABLES = (
    f"""used_kit (setup_revision_id {ID} NOT NULL, kit_item_id {ID} NOT NULL, PRIMARY KEY (setup_revision_id, kit_item_id), KEY used_kit_item (kit_item_id),
        FOREIGN KEY (setup_revision_id) REFERENCES setup_revision (id), FOREIGN KEY (kit_item_id) REFERENCES kit_item (id)) {END}""",
    f"""stock_entry ({EDITABLE}, kit_item_id {ID} NOT NULL, mass_g DECIMAL(9,3) NOT NULL, note VARCHAR(120) NOT NULL, at DATETIME(6) NOT NULL,
        FOREIGN KEY (kit_item_id) REFERENCES kit_item (id)) {END}""",
    f"""matched_setting ({EDITABLE}, a_id {ID} NOT NULL, a_setting DECIMAL(9,3) NOT NULL, b_id {ID} NOT NULL, b_setting DECIMAL(9,3) NOT NULL,
        match_kind VARCHAR(16) NOT NULL, matched_on DATE NULL, note VARCHAR(200) NOT NULL,
        FOREIGN KEY (a_id) REFERENCES kit_item (id), FOREIGN KEY (b_id) REFERENCES kit_item (id)) {END}""",
    f"recipe ({EDITABLE}, name VARCHAR(120) NOT NULL, version_id {ID} NULL, created_by {ID} NULL) {END}",
    f"""recipe_version (id {ID} NOT NULL PRIMARY KEY, recipe_id {ID} NOT NULL, number INT NOT NULL, document JSON NOT NULL, errors INT NOT NULL,
        note VARCHAR(200) NOT NULL, created_at DATETIME(6) NOT NULL, created_by {ID} NULL, UNIQUE KEY recipe_version_number (recipe_id, number),
        FOREIGN KEY (recipe_id) REFERENCES recipe (id)) {END}""",
    f"""plan ({EDITABLE}, trial_id {ID} NOT NULL UNIQUE, design JSON NULL, replicates INT NOT NULL, flights INT NOT NULL, tasters INT NOT NULL,
        blocking VARCHAR(12) NOT NULL, block_factor VARCHAR(24) NOT NULL, seed INT NOT NULL, share_drunk DECIMAL(4,2) NOT NULL, dial_in_brews INT NOT NULL,
        sieve_samples INT NOT NULL, day JSON NOT NULL, FOREIGN KEY (trial_id) REFERENCES trial (id)) {END}""",
    f"""run_sheet ({EDITABLE}, trial_id {ID} NOT NULL, begins_at DATETIME(6) NOT NULL, asked JSON NOT NULL, found JSON NOT NULL, begun JSON NOT NULL,
        planned_at DATETIME(6) NOT NULL, KEY run_sheet_trial (trial_id, created_at), FOREIGN KEY (trial_id) REFERENCES trial (id)) {END}""",
)

KINDS = ("coffee", "grinder", "filter", "brewer", "water")


def up(migrator, db):
    for table, column in COLUMNS:
        db.execute_sql(f"ALTER TABLE {table} ADD COLUMN IF NOT EXISTS {column}")
    for table in TABLES:
        db.execute_sql(f"CREATE TABLE IF NOT EXISTS {table}")
    for kind in KINDS:
        db.execute_sql(
            f"INSERT IGNORE INTO used_kit (setup_revision_id, kit_item_id) SELECT r.id, k.id FROM setup_revision r "
            f"JOIN kit_item k ON k.kind = '{kind}' AND k.name = r.{kind} AND k.deleted_at IS NULL"
        )
    db.execute_sql("UPDATE kit_item SET facts = JSON_OBJECT('brewer_type', brewer_type) WHERE kind = 'brewer' AND brewer_type IS NOT NULL AND facts = '{}'")
