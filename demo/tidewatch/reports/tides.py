"""High and low water from a line of readings."""


def turning_points(readings):
    """The readings at which the water turns, with what they are."""
    points = []
    for before, now, after in zip(readings, readings[1:], readings[2:]):
        if before.metres < now.metres >= after.metres:
            points.append(("high", now))
        elif before.metres > now.metres <= after.metres:
            points.append(("low", now))
    return points


def mean_range(points):
    """Mean difference between neighbouring high and low water, in metres."""
    ranges = [
        abs(a.metres - b.metres)
        for (kind, a), (other, b) in zip(points, points[1:])
        if kind != other
    ]
    return sum(ranges) / len(ranges) if ranges else None
