"""All tests: core (mirrors `src/tijera`), reference (against the outside), browser (the real interface).

Property tests have one profile: no deadline, since a machine may be as slow as it likes; the same examples for everybody.
"""

from hypothesis import HealthCheck, settings

settings.register_profile(
    "tijera", deadline=None, derandomize=True, suppress_health_check=list(HealthCheck), print_blob=True
)
settings.load_profile("tijera")
