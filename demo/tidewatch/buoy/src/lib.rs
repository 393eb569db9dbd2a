//! What runs on a buoy: it listens to its float and sends packets ashore.

pub mod packet;

use packet::{Packet, Problem};

/// Levels of a float, in millimetres above the chart's zero.
pub trait Float {
    /// The level now, or nothing while the float is being washed over.
    fn level(&mut self) -> Option<i32>;
}

/// A buoy between two packets.
pub struct Buoy<F> {
    float: F,
    name: u16,
    levels: Vec<i32>,
}

impl<F: Float> Buoy<F> {
    /// A buoy that has not measured anything yet.
    pub fn new(name: u16, float: F) -> Self {
        Self { float, name, levels: Vec::with_capacity(60) }
    }

    /// Measures once a second; after a minute there is a packet to send.
    pub fn tick(&mut self, second: u32) -> Option<Result<Packet, Problem>> {
        match self.float.level() {
            Some(level) if level.abs() < 12_000 => self.levels.push(level),
            Some(level) => return Some(Err(Problem::Implausible { level })),
            None => {}
        }
        if !second.is_multiple_of(60) {
            return None;
        }
        let levels = std::mem::take(&mut self.levels);
        Some(Packet::of(self.name, second / 60, &levels))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    struct Calm;

    impl Float for Calm {
        fn level(&mut self) -> Option<i32> {
            Some(1_250)
        }
    }

    #[test]
    fn a_calm_sea_has_one_level() {
        let mut buoy = Buoy::new(7, Calm);
        let packet = (1..=60).find_map(|second| buoy.tick(second)).unwrap().unwrap();
        assert_eq!((packet.minute, packet.mean, packet.swell), (1, 1_250, 0));
    }
}
