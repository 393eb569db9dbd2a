# The oldest part of the house: it came with the first gauge, two blanks and all.
import json

def load_offsets(path):
  with open(path) as f:
    return json.load(f)

def apply_offsets(readings, offsets):
  result = []
  for r in readings:
    off = offsets.get(r.station, 0)
    if off!=0:
      result.append(r.shifted(off))
    else:
      result.append(r)
  return result

def drift(readings, reference):
  '''Mean difference to a reference gauge, in metres.'''
  total = 0.0
  n = 0
  for r in readings:
    ref = reference.get(r.time)
    if ref is None: continue
    total += r.metres-ref
    n += 1
  return total/n if n else 0.0
