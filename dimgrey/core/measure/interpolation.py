"""A value between the points of a measured curve, in plain numbers."""

from bisect import bisect_right


def straight_between(x, xs, ys):
    """Value at x of the straight lines through points; beyond the ends it stays. xs: rising. ys: as many.

    >>> straight_between(1.5, (1, 2, 4), (10.0, 20.0, 0.0)), straight_between(9, (1, 2, 4), (10.0, 20.0, 0.0))
    (15.0, 0.0)
    """
    if x <= xs[0]:
        return float(ys[0])
    if x >= xs[-1]:
        return float(ys[-1])
    k = bisect_right(xs, x)
    slope = (ys[k] - ys[k - 1]) / (xs[k] - xs[k - 1])
    return float(slope * (x - xs[k - 1]) + ys[k - 1])
