"""The practice desk: a simulated desktop of a made-up harbour office that gives frames like a real screen."""
