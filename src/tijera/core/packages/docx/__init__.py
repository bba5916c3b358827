"""WordprocessingML documents: outline, spots, pictures, placing."""
