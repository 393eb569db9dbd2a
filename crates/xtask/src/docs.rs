//! x
pub fn run(_check: bool) -> anyhow::Result<bool> { Ok(true) }
