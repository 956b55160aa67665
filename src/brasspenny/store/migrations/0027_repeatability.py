"""How well one reading of one drink repeats on this bench's refractometer."""


def up(migrator, db):
    db.execute_sql("ALTER TABLE bench ADD COLUMN IF NOT EXISTS repeatability_pct DECIMAL(6,3) NOT NULL DEFAULT 0.015 AFTER resolution_pct")
