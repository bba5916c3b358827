"""The HTTP interface of links: set up, made, listed, withdrawn. What others reach is answered elsewhere."""
