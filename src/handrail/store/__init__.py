"""The records: peewee models over one SQLite file, numbered migrations, one repository module a subject."""
