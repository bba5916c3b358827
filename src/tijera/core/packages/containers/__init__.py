"""What files are made of: zip members kept raw, spans of XML, reading what is asked for, trees compared."""
