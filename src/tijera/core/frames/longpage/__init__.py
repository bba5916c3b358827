"""Long pages: strips of a page that was scrolled past, joined to one tall picture."""
