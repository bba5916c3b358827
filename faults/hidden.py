"""Pixels and transparency are changed at random where they are hidden: no byte of anything that leaves may differ."""

from __future__ import annotations

import numpy as np
from hypothesis import HealthCheck, given, seed, settings
from hypothesis import strategies as st

from faults.served import Finding
from tests.support.sheets import Given, screen
from tests.tijera.core.clippings.test_hidden import ENCODERS, changed, clippings, hidden_of
from tijera.core.clippings.composing import compose
from tijera.core.clippings.cutting import Clipping
from tijera.core.imaging.encode import encode_png
from tijera.core.imaging.picture import Picture

_ENOUGH = 60
_QUIET = [HealthCheck.too_slow, HealthCheck.data_too_large, HealthCheck.filter_too_much]


def run(cases: int = 1_000) -> Finding:
    """Try so many; in each a visible pixel is changed, too, which must show."""
    outputs, unequal, unseen, tried = 0, 0, 0, 0

    @seed(18)
    @settings(max_examples=cases, deadline=None, database=None, suppress_health_check=_QUIET)
    @given(clippings(), st.integers(0, 2**32 - 1))
    def case(clipping: Clipping, number: int) -> None:
        nonlocal outputs, unequal, unseen, tried
        before, hidden = screen(), hidden_of(clipping)
        random = np.random.default_rng(number)
        alpha = np.where(hidden, random.integers(0, 256, hidden.shape), 255).astype(np.uint8)
        after = np.dstack((changed(before, hidden, number), alpha))
        one = compose(clipping, Given(Picture(before)), 1.5)
        other = compose(clipping, Given(Picture(after)), 1.5)
        tried += 1
        for encode in ENCODERS.values():
            outputs += 1
            unequal += encode(one) != encode(other)
        # The control: all that is seen is noise. Of a few pixels at the very edge of an outline nothing may be left to see.
        noise = compose(clipping, Given(Picture(changed(before, ~hidden, number + 1))), 1.5)
        unseen += int((~hidden).sum()) >= _ENOUGH and encode_png(noise) == encode_png(one)

    case()
    return Finding(
        "Hidden colours and transparency changed at random: outputs that differ",
        f"{unequal} of {outputs}",
        "0, ≥ 1,000 cases",
        unequal == 0 and unseen == 0 and tried >= cases,
        f"{tried} cases, {len(ENCODERS)} outputs each; with noise in all that is seen ({_ENOUGH} pixels and more) {unseen} controls did not differ",
    )
