"""Links to a picture: how long one can be opened, and what guards it."""
