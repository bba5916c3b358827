"""One folder a format; none knows another. `registry.py` beside it lists them."""
