"""What a verdict proposed and the host drafted: brews still to be made, beside the plan."""


def up(migrator, db):
    db.execute_sql("ALTER TABLE plan ADD COLUMN IF NOT EXISTS drafted JSON NULL")
