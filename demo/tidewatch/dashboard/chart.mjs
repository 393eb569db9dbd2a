const WIDTH = 640;
const HEIGHT = 240;
const COLOURS = ['#246', '#2a6', '#a62'];

function scale(values, size) {
  const low = Math.min(...values);
  const high = Math.max(...values);
  return value => size - ((value - low) / (high - low || 1)) * size;
}

function line(readings, colour) {
  const y = scale(readings.map(r => r.metres), HEIGHT);
  const step = WIDTH / Math.max(readings.length - 1, 1);
  const points = readings.map((r, i) => `${(i * step).toFixed(1)},${y(r.metres).toFixed(1)}`);
  return `<polyline fill="none" stroke="${colour}" points="${points.join(' ')}"/>`;
}

export function drawChart(stations) {
  const lines = Object.values(stations)
    .map((readings, i) => line(readings, COLOURS[i % COLOURS.length]));
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${WIDTH} ${HEIGHT}">${lines.join('')}</svg>`;
}
