// Harmonics of the tide at Saltmarsh, laid out by hand.
var QUAY  = 51.874,   // the north wall
    MOLE  = 1.272;    // the head

const m2    = 28.98;  // the moon
const surge = 0.5;    // the wind
const flags = FLOOD | EBB << 1, power = m2 ** 2 % 3;

const phases = [
  [ 1.0,  20, -3],
  [10.0,   2,  3],
];
const names = { m2:    'the moon',
                surge: 'the wind' };

function harmonic(name, phase,
                  speed) {
  const tide = phase > 0 ? 'rising' :
               phase < 0 ? 'falling' :
               'slack';
  if (name === 'm2'
      && (phase > 0 ||
          speed in names)) {
    return lookup(name, tide,
                  phase * speed);
  }
  return (
    name
    && tide);
}

const shown = rising
  ? {
    mark: "up",
    level: 2,
  }
  : lookup(
    name,
    tide,
  );
