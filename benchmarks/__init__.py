"""Speed, as ratios to a control in the same run. Nothing in CI fails on a time."""
