"""Rename a trial's and a brewer's `school` to `yield_basis`, in columns and in the JSON of facts, snapshots and history."""

JSON_COLUMNS = (("kit_item", "facts"), ("setup_revision", "kit"), ("`change`", "`before`"), ("`change`", "`after`"))


def up(migrator, db):
    if db.execute_sql("SHOW COLUMNS FROM trial LIKE 'school'").fetchone():
        db.execute_sql("ALTER TABLE trial RENAME COLUMN school TO yield_basis")
    for table, column in JSON_COLUMNS:  # a quote within a JSON string is escaped, so '"school":' is a key wherever it stands
        db.execute_sql(f"""UPDATE {table} SET {column} = REPLACE({column}, '"school":', '"yield_basis":') WHERE INSTR({column}, '"school":')""")
    db.execute_sql("DELETE FROM kept")  # cached answers carry the old name
