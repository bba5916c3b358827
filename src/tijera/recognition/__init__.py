"""The recogniser of words, where the system has one."""
