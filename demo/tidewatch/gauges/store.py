"""Keeps the readings of the last weeks in memory, and older ones on disk."""

import json
from collections import defaultdict


class Store:
    """Readings by station, newest last."""

    def __init__(self, keep=2016):
        self.keep = keep
        self.readings = defaultdict(list)

    def add(self, reading):
        line = self.readings[reading.station]
        line.append(reading)
        if len(line) > self.keep:
            del line[:len(line) - self.keep]

    def latest(self, station):
        line = self.readings.get(station)
        return line[-1] if line else None

    def between(self, station, start, end):
        return [r for r in self.readings[station] if start <= r.time < end]

    def highest(self, station, start, end):
        found = self.between(station, start, end)
        return max(found, key=lambda reading: reading.metres, default=None)

    def dump(self, path):
        rows = {
            station: [(r.time.isoformat(), r.metres) for r in line]
            for station, line in self.readings.items()
        }
        with open(path, "w", encoding="utf-8") as out:
            json.dump(rows, out, indent=2, sort_keys=True)
