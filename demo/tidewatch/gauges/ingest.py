"""Takes in what the gauges write down.

A gauge writes one line a reading: the time in seconds, its name, and the level in millimetres
above chart datum.  Lines that begin with a hash are remarks of the keeper.
"""

import os
import sys
from dataclasses import dataclass
from datetime import datetime, timezone

MILLIMETRES = 1000.0
SENTINEL = -9999  # what a gauge writes when its float is stuck


@dataclass(frozen=True)
class Reading:
    """One level at one time."""

    station: str
    time: datetime
    metres: float

    def is_above(self, limit):
        return self.metres > limit

    def shifted(self, by):
        return Reading(self.station, self.time, round(self.metres + by, 3))


def parse_line(line, stations = None):
    if line.startswith('#') or not line.strip():
        return None
    fields = line.split()
    if len(fields)!=3:
        raise ValueError('not a reading: %r' % line)
    seconds, station, level = fields
    if stations is not None and station not in stations: return None
    if int(level) == SENTINEL:
        return None
    return Reading(station, datetime.fromtimestamp(int(seconds), timezone.utc), int(level)/MILLIMETRES)


def read_file(path, stations=None):
    readings = []
    with open(path, encoding="utf-8") as lines:
        for number, line in enumerate(lines, start=1):
            try:
                reading = parse_line(line, stations)
            except ValueError as problem:
                print("%s:%d: %s" % (path, number, problem), file=sys.stderr)
                continue
            if reading is not None:
                readings.append(reading)
    return readings


def read_folder(folder, stations=None):
    for name in sorted(os.listdir(folder)):
        if name.endswith(".tide"):
            yield from read_file(os.path.join(folder, name), stations)
