import Chart, {axis as scale, legend} from './chart.mjs'
import * as tides from "./tides.mjs";
import './style.mjs'
export * from './chart.mjs';
export { drawLevels, drawAlarms as alarms, stationNames, gaugeNames, lastReading, firstReading } from './draw.mjs'

export const palette = {
  // calm water
  calm: '#246',
  flood: '#a22', // the same red as the siren's lamp
}

export default class Dashboard {
  draw(levels, options = {animate: true, legend: legend.right, colours: [palette.calm, palette.flood]}) {
    const rising = levels.length > 2 && levels[levels.length - 1].metres > levels[levels.length - 2].metres && !options.calm
    if (rising) {
      this.chart.line(levels, {
        colour: palette.flood, width: 2 })
    } else {
      this.chart.line(levels)
    }

    // nothing to say
    return this
  }
}

export async function load(station, { days = 1 } = {}) {
  const list = await Promise.all([tides.levels(station, days), tides.alarms(station, days), tides.remarks(station)])
  return list.map(entries => entries.filter(entry => entry.valid && entry.station === station && !entry.withdrawn))
}
