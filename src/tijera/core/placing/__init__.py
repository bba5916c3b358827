"""How a clipping stands in its place: how large it becomes, what can be asked of the place, how its text reads there."""
