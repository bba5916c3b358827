"""The rules of the job. Imports no web, no database, no clock and no network."""
