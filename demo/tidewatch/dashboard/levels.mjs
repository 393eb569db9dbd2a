const TREND_METRES = 0.05;

export function trend(readings) {
  if (readings.length < 2) return 'unknown';
  const [before, now] = readings.slice(-2).map(r => r.metres);
  if (now - before > TREND_METRES) return 'rising';
  if (before - now > TREND_METRES) return 'falling';
  return 'slack';
}

export function summary(stations) {
  return Object.entries(stations)
    .filter(([, readings]) => readings.length > 0)
    .map(([station, readings]) => ({
      station,
      metres: readings[readings.length - 1].metres,
      trend: trend(readings),
    }));
}
