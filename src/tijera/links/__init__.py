"""What others reach: a picture at an address that can't be guessed, answered by a listener of its own, and nothing else."""
