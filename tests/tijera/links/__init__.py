"""Links as those meet them who have an address, or guess one."""
