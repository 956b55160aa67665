"""What is numbered, named or done once has a key of its own: two that were given twice are told apart first."""

LABELS = """
UPDATE run r JOIN (
  SELECT id, ROW_NUMBER() OVER (PARTITION BY setup_id, purpose, number ORDER BY created_at, id) nth,
    ROW_NUMBER() OVER (PARTITION BY setup_id, purpose ORDER BY number, created_at, id) + MAX(number) OVER (PARTITION BY setup_id, purpose) fresh
  FROM run
) x ON x.id = r.id SET r.number = x.fresh WHERE x.nth > 1
"""
GIVEN = """
UPDATE setup s SET s.{column} = GREATEST(s.{column}, COALESCE((SELECT MAX(r.number) FROM run r WHERE r.setup_id = s.id AND r.purpose = '{purpose}'), 0))
"""
LETTERS = """
SELECT id, trial_id, letter, ROW_NUMBER() OVER (PARTITION BY trial_id, letter ORDER BY created_at, id) nth FROM setup
WHERE trial_id IS NOT NULL AND deleted_at IS NULL ORDER BY trial_id, letter
"""
NAMES = """
UPDATE person p JOIN (SELECT id, ROW_NUMBER() OVER (PARTITION BY name ORDER BY created_at, id) nth FROM person WHERE deleted_at IS NULL) x ON x.id = p.id
SET p.name = CONCAT(LEFT(p.name, 74), ' ', x.nth) WHERE x.nth > 1
"""
UNDONE = """
UPDATE `change` c JOIN (SELECT id, ROW_NUMBER() OVER (PARTITION BY undoes ORDER BY at, id) nth FROM `change` WHERE undoes IS NOT NULL) x ON x.id = c.id
SET c.undoes = NULL WHERE x.nth > 1
"""


def up(migrator, db):
    db.execute_sql(LABELS)
    for column, purpose in (("brews_given", "evidence"), ("dial_ins_given", "dial_in")):
        db.execute_sql(GIVEN.format(column=column, purpose=purpose))
    _separate_letters(db)
    db.execute_sql(NAMES)
    db.execute_sql(UNDONE)
    db.execute_sql("ALTER TABLE run ADD UNIQUE KEY IF NOT EXISTS run_label (setup_id, purpose, number)")
    db.execute_sql("ALTER TABLE setup ADD COLUMN IF NOT EXISTS live TINYINT AS (IF(deleted_at IS NULL AND trial_id IS NOT NULL, 1, NULL)) PERSISTENT")
    db.execute_sql("ALTER TABLE setup ADD UNIQUE KEY IF NOT EXISTS setup_live_letter (trial_id, letter, live)")
    db.execute_sql("ALTER TABLE person ADD COLUMN IF NOT EXISTS live_name VARCHAR(80) AS (IF(deleted_at IS NULL, name, NULL)) PERSISTENT")
    db.execute_sql("ALTER TABLE person ADD UNIQUE KEY IF NOT EXISTS person_live_name (live_name)")
    db.execute_sql("ALTER TABLE `change` ADD UNIQUE KEY IF NOT EXISTS change_undoes (undoes)")


def _separate_letters(db):
    rows = list(db.execute_sql(LETTERS).fetchall())
    taken = {(trial, letter) for _, trial, letter, _ in rows}
    for setup_id, trial, _, nth in rows:
        if nth > 1:
            free = next(x for x in "ABCDEFGHIJKLMNOPQRSTUVWXYZ" if (trial, x) not in taken)
            taken.add((trial, free))
            db.execute_sql("UPDATE setup SET letter = %s WHERE id = %s", (free, setup_id))
