"""The bench's secret lives with the bench; who was let in; what every device has ever been. Guesses at the passphrase are counted."""

ID = "CHAR(12) CHARACTER SET ascii COLLATE ascii_bin"
HASH = "CHAR(64) CHARACTER SET ascii COLLATE ascii_bin"
END = "ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci"

TABLES = (
    f"""let_in (id {ID} NOT NULL PRIMARY KEY, token_hash {HASH} NOT NULL UNIQUE, created_at DATETIME(6) NOT NULL, seen_at DATETIME(6) NOT NULL,
        ended_at DATETIME(6) NULL, agent VARCHAR(200) NOT NULL, address VARCHAR(45) NOT NULL) {END}""",
    f"passphrase_guess (id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY, address VARCHAR(45) NOT NULL, at DATETIME(6) NOT NULL, KEY guess_address (address, at)) {END}",
    f"bench_device (device {HASH} NOT NULL PRIMARY KEY, at DATETIME(6) NOT NULL) {END}",
    f"device_person (device {HASH} NOT NULL, person_id {ID} NOT NULL, at DATETIME(6) NOT NULL, PRIMARY KEY (device, person_id), KEY device_of_person (person_id)) {END}",
    f"""device_hat (device {HASH} NOT NULL, flight_id {ID} NOT NULL, hat VARCHAR(8) NOT NULL, at DATETIME(6) NOT NULL, PRIMARY KEY (device, flight_id, hat),
        KEY hat_in_flight (flight_id, hat), FOREIGN KEY (flight_id) REFERENCES flight (id)) {END}""",
)


def up(migrator, db):
    db.execute_sql("ALTER TABLE bench ADD COLUMN IF NOT EXISTS secret VARCHAR(128) CHARACTER SET ascii COLLATE ascii_bin NULL")
    for table in TABLES:
        db.execute_sql(f"CREATE TABLE IF NOT EXISTS {table}")
