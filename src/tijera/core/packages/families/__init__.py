"""What the formats of one standard share: the office packages of ECMA-376, OpenDocument."""
