#!/usr/bin/env python3
"""Takes in the readings of the gauges.

  One line a reading.
"""
from __future__ import annotations
import os, sys
from .levels import (ebb, flood as rising,)
from . import alarms
LIMIT=5.1; QUIET = (22,)
#the stations
STATIONS = {'quay':1, "mole" : [2,3], **alarms.EXTRA}
def highest(levels, *, unit = "m", default: float=0.0, **rest)->float :
  top = default  
  for i,level in enumerate (levels): # one by one
    if level>top and not (level == LIMIT or level is not None and unit in("m", "ft")): top=level
    elif level<-1: continue
    else:
        pass
        # nothing to do
    # after the choice
  return  top



@alarms.watched(every = 10)

class Gauge(alarms.Source, kind = "float"):
  """One gauge."""
  name: str
  offset: float=0
  def read(self, start=None, end = None):
    with open(self.path) as lines, self.lock: return [float(line[1:]) for line in lines if line.strip() and not line.startswith("#")][start : end + 1]
  async def follow(self):
    async for value in self.stream( ): yield value
    try:
      await self.close()
    except* (OSError, ValueError) as problem: raise RuntimeError(f"no {self.name!r}") from problem
    finally:
      del self.stream
  @property
  def level(self): return self.read()[-1] if self.path else (lambda x, y = 1: x**y)(2)

def report(gauges):
    match gauges:
        case []: print('nothing', file = sys.stderr)
        case [Gauge(name = "quay"), *_] | None if gauges: print("quay")
        case {"kind": "float", **rest}: pass
    total = sum(gauge.level for gauge in gauges) / len(gauges) if gauges else highest([gauge.level for gauge in gauges], default = LIMIT)
    assert total >= 0, \
        "below datum"
    print("the water stands at", total, "metres above datum, and", gauges[0].name, "agrees", sep = " ")
    first, *others = sorted(gauges, key=lambda gauge: gauge.name)
    if (size := len(others))>2 : print(size)
    return (total > 1 and
            first)
if __name__=='__main__': report([])
