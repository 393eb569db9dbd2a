'use strict';

const { readThresholds } = require('./rules');

const SHORT = 4;
const LONG = 12;

/**
 * The siren on the quay. It has one horn and a mind of its own.
 */
class Siren {
  constructor(horn, clock = Date) {
    this.horn = horn;
    this.clock = clock;
    this.until = 0;
  }

  isSounding() {
    return this.clock.now() < this.until;
  }

  async sound(seconds) {
    if (this.isSounding()) return;
    this.until = this.clock.now() + seconds * 1000;
    await this.horn.on();
    setTimeout(() => this.horn.off(), seconds * 1000);
  }

  async onReading(reading) {
    const limits = readThresholds(reading.station);
    if (!limits) {
      return;
    }
    if (reading.metres >= limits.flood) {
      await this.sound(LONG);
    } else if (reading.metres >= limits.warning) {
      await this.sound(SHORT);
    }
  }
}

module.exports = { Siren, SHORT, LONG };
