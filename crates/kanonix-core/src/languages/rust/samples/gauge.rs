//! The gauges of Saltmarsh: what they measure, and how far it can be trusted.

#![allow(dead_code)]

use std::collections::{BTreeMap, HashMap};
use std::fmt::{self, Display, Write as _};

pub(crate) mod tide {
    pub use super::Level as High;
}

/// Metres above the town's own zero.
#[derive(Clone, Copy, Debug, PartialEq, PartialOrd)]
pub struct Level(pub f64);

/// A gauge at the quay.
pub struct Gauge<'quay, S: Source + ?Sized, const N: usize = 24>
where
    S::Reading: Into<Level>,
{
    /// Its name on the chart.
    pub name: &'quay str,
    source: Box<S>,
    #[allow(unused, missing_docs)]
    listeners: Vec<Box<dyn Fn(&Level) -> bool + Send + 'static>>,
    history: [Option<Level>; N],
}

/// What may go wrong with a gauge.
#[non_exhaustive]
pub enum Fault {
    Silent,
    Drift(f64, &'static str),
    Stuck { since: u64, at: Level },
}

#[repr(u8)]
pub enum Quay {
    Mole = 1,
    Lock = 1 << 1,
}

/// Where readings come from.
pub trait Source: Send {
    type Reading: Copy;
    const EVERY: u64 = 60;

    fn read(&mut self) -> Result<Self::Reading, Fault>;

    fn name(&self) -> String {
        String::from("a source")
    }
}

impl<'quay, S, const N: usize> Gauge<'quay, S, N>
where
    S: Source + ?Sized,
    S::Reading: Into<Level>,
{
    /// The mean of what was read, if anything was.
    pub fn mean(&self) -> Option<f64> {
        let readings = self.history.iter().flatten().map(|level| level.0);
        let (sum, count) = readings.fold((0.0, 0), |(sum, count), level| (sum + level, count + 1));
        if count == 0 { None } else { Some(sum / f64::from(count)) }
    }

    pub fn latest(&mut self, tries: usize) -> Result<Level, Fault> {
        let mut last = Err(Fault::Silent);
        'tries: for attempt in 0..tries {
            last = match self.source.read() {
                Ok(_) if attempt == 0 => continue 'tries,
                Ok(reading) => Ok(reading.into()),
                Err(Fault::Drift(by, _) | Fault::Stuck { at: Level(by), .. })
                    if by.abs() < 0.01 && attempt + 1 == tries =>
                {
                    return Ok(Level(by));
                }
                Err(fault) => Err(fault),
            };
        }
        last
    }

    fn tell(&self, level: &Level) -> usize {
        self.listeners.iter().filter(|listener| listener(level)).count()
    }
}

impl Display for Level {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let Level(metres) = *self;
        write!(f, "{metres:.2} m")?;
        if f.alternate() && !metres.is_nan() {
            write!(f, " ({})", if metres < 0.0 { "ebb" } else { "flood" })
        } else {
            Ok(())
        }
    }
}

/// The highest and the lowest of several levels.
pub fn range<I>(levels: I) -> Option<(Level, Level)>
where
    I: IntoIterator<Item = Level>,
{
    let mut levels = levels.into_iter();
    let first = levels.next()?;
    let range = levels.fold((first, first), |(low, high), level| {
        let low = if level < low { level } else { low };
        (low, if level > high { level } else { high })
    });
    Some(range)
}

pub fn by_name<'a>(gauges: &[(&'a str, Level)]) -> HashMap<&'a str, Vec<Level>> {
    let mut found: HashMap<_, Vec<Level>> = HashMap::new();
    for &(name, level) in gauges {
        found.entry(name).or_default().push(level);
    }
    found
}

pub fn report(levels: &BTreeMap<u64, Level>) -> String {
    let mut text = String::new();
    for (at, Level(metres)) in levels.range(..=86_400).skip(1).take(levels.len() - 1) {
        let _ = writeln!(text, "{at:>6} {metres:+.2}");
    }
    text
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_range_of_nothing_is_nothing() {
        assert_eq!(range([]), None);
        assert!(matches!(range([Level(1.0)]), Some((Level(low), _)) if low == 1.0));
        assert_eq!(
            by_name(&[("mole", Level(1.5)), ("quay", Level(2.5)), ("mole", Level(1.75))])["mole"],
            vec![Level(1.5), Level(1.75)],
            "of {} gauges",
            2
        );
    }
}
