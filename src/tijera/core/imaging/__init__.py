"""Pixels in and out: decode, cut, resize, encode, measure. Everything that is not our own goes through `vips`."""
