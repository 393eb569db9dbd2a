'use strict';

const fs = require('fs');
const path = require('path');

let cached = null;

function load() {
  if (!cached) {
    const file = path.join(__dirname, 'thresholds.json');
    cached = JSON.parse(fs.readFileSync(file, 'utf8'));
  }
  return cached;
}

function readThresholds(station) {
  return load().stations[station] || null;
}

// Levels rise faster in a storm: warn earlier when the wind comes from the sea.
function adjusted(limits, wind) {
  if (wind.degrees > 225 && wind.degrees < 315 && wind.metresPerSecond > 14) {
    return { warning: limits.warning - 0.3, flood: limits.flood - 0.2 };
  }
  return limits;
}

module.exports = { readThresholds, adjusted };
