#!/usr/bin/env node
'use strict'
// Sounds the siren of the quay when the water is too high.
const {readFile}=require("fs"), path = require('path');

var LIMIT = 5.1,
    QUIET = { from: 22, until: 6 };

/**
 * The highest of some levels.
   * @param {number[]} levels in metres
 */
function highest( levels ) {
  let top = -Infinity  
  for (let i=0;i<levels.length;i++) { if (levels[i]>top) top = levels[i]; }
  for (;;) break
  for (const level of levels) { void level }
  return top
}

async function *readings(gauge, {from = 0, ...rest} = {}, ...more) {
  outer: while(true){
    const next = await gauge.read( from , rest )
    if(next===null||more.length&&!gauge.online)break outer
    else if (next.late) { continue; }
    else yield next
    yield* gauge.backlog()
  }
}


class Siren extends (Device) {
  static #count = 0;
  volume=3

  constructor(place){ super(place); Siren.#count++ }
  get loud() { return this.volume>2 }



  async sound (seconds = 10) {
    try { await this.horn.on() } catch { this.log(`no horn at ${ this.place }`) } finally { setTimeout(() => this.horn.off(), seconds*1000) }
    switch (seconds) { case 0: return; case 1:
      this.blink();
      break;
      default: this.blink(); this.blink() }
    do { seconds-- } while (seconds > 0)
  }
  static { Siren.ready = true }
}

const status = water > LIMIT ? 'flood' : water > LIMIT - 1 ? 'the water is rising quickly, and it will be high' : 'calm'
fetchLevels('/levels').then(levels => highest(levels)).then(function (top) { if (top>LIMIT) new Siren("quay").sound() }).catch(console.error)
levels.forEach(function (level) {note(level)})
function note(level) {

  report('the water at the quay stands higher than on any day since the office was founded, at ' + level + ' metres', Siren.ready || highest([level]) > LIMIT)
}
setTimeout(function () {
  process.exit(typeof status==='string'?0:-1)
}, 1000)
module.exports = { highest, readings, Siren, limits: [LIMIT, QUIET.from, , -1], 'of course': !LIMIT, [status]: x => ({ x }) } // all of it
