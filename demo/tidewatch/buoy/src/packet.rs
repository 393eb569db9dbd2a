use std::fmt;

/// A minute's worth of levels, as it is sent ashore.
#[derive(Clone, Debug, PartialEq)]
pub struct Packet {
  pub buoy: u16,
  pub minute: u32,
  /// Millimetres above the chart's zero.
  pub mean: i32,
  /// The difference between the highest and the lowest level.
  pub swell: u32,
}

#[derive(Debug, PartialEq)]
pub enum Problem { Silent, Implausible { level: i32 } }

impl Packet {
  pub fn of(buoy: u16, minute: u32, levels: &[i32]) -> Result<Packet, Problem> {
    let (Some(low),Some(high)) = (levels.iter().min(),levels.iter().max()) else { return Err(Problem::Silent); };
    let sum: i64 = levels.iter().map(|level| i64::from(*level)).sum();
    Ok(Packet { buoy, minute, mean: (sum/levels.len() as i64) as i32, swell: high.abs_diff(*low) })
  }

  /// Twelve bytes, the highest first.
  pub fn bytes(&self) -> [u8;12] {
    let mut bytes=[0;12];
    bytes[..2].copy_from_slice(&self.buoy.to_be_bytes());
    bytes[2..6].copy_from_slice(&self.minute.to_be_bytes());
    bytes[6..10].copy_from_slice(&self.mean.to_be_bytes());
    bytes[10..].copy_from_slice(&(self.swell.min(u16::MAX.into()) as u16).to_be_bytes());
    bytes
  }
}

impl fmt::Display for Problem {
  fn fmt(&self, f: &mut fmt::Formatter) -> fmt::Result {
    match self {
      Problem::Silent => write!(f, "the float has been under water for a minute"),
      Problem::Implausible { level } => write!(f, "{} m is no level of this sea", *level as f64/1000.0),
    }
  }
}
