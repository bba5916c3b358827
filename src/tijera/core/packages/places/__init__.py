"""What every format says of its places: spots, what is placed there, cells, paragraphs, caption numbers, finding again."""
