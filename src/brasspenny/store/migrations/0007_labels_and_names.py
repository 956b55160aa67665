"""Labels of brews are given once; a name freed by deletion is free again; a declared difference has a reason."""

HIGHEST = "COALESCE((SELECT MAX(r.number) FROM run r WHERE r.setup_id = s.id AND r.purpose = '{}'), 0)"
LIVE_NAME = "IF(deleted_at IS NULL, CONCAT(kind, '/', IFNULL(JSON_VALUE(facts, '$.grinder_id'), ''), '/', name), NULL)"


def up(migrator, db):
    for column, purpose in (("brews_given", "evidence"), ("dial_ins_given", "dial_in")):
        db.execute_sql(f"ALTER TABLE setup ADD COLUMN IF NOT EXISTS {column} INT NOT NULL DEFAULT 0")
        db.execute_sql(f"UPDATE setup s SET s.{column} = GREATEST(s.{column}, {HIGHEST.format(purpose)})")
    db.execute_sql("ALTER TABLE declaration ADD COLUMN IF NOT EXISTS reason VARCHAR(200) NOT NULL DEFAULT ''")
    db.execute_sql("ALTER TABLE kit_item DROP KEY IF EXISTS kit_item_kind_name")
    db.execute_sql(f"ALTER TABLE kit_item ADD COLUMN IF NOT EXISTS live_name VARCHAR(180) AS ({LIVE_NAME}) PERSISTENT")
    db.execute_sql("ALTER TABLE kit_item ADD UNIQUE KEY IF NOT EXISTS kit_item_live_name (live_name)")
