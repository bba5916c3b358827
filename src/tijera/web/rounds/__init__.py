"""The HTTP interface of rounds: areas that are taken at set times."""
