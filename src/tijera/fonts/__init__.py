"""The typefaces that ship with Tijera, for everything that is rendered on the server."""
