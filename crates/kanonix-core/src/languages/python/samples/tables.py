"""Harmonics of the tide at Saltmarsh, laid out by hand."""

QUAY   = 51.874      # the north wall
MOLE   =  1.272      # the head
BUOYS  = 3           # since the spring tide
                     # before last

PHASES = [[ 1.0,  20, -3],
          [10.0,   2,  3],
          [ 0.5, 200, 12]]

NAMES = {'m2':   'the moon',
         's2':   'the sun',
         'surge': 'the wind'}


def harmonic(name, phase,
             speed=28.98, *,
             quiet=False):
    if (name in NAMES and
            phase > 0):
        return lookup(name, NAMES,
                      phase * speed**2 - 1)
    late = (phase + speed
            - QUAY)
    flags = late<<1 | phase&3
    raise ValueError("no such harmonic "
                     "at the quay: " + name)


def draw(
    page,
    title):
    page.write([n for n in NAMES
                if n != title])
