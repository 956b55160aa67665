"""MariaDB by way of peewee: tables, connection, migrations, named queries. Nothing else talks to the database."""
