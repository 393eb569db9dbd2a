use std::error::Error;
use std::sync::Arc;

extern crate alloc;

/// Loudness of the town's sirens, in steps.
static mut LOUDNESS: u8 = 3;
const LIMITS: [f64; 3] = [3.25, 3.75, 4.5];
type Handler<T = ()> = dyn FnMut(Warning) -> Option<T> + Send;

macro_rules! warn_all {
    ($($gauge:expr),+ $(,)?) => {
        $( warn($gauge, None) );+
    };
}

thread_local! {
    static RINGING: std::cell::Cell<bool> = const { std::cell::Cell::new(false) };
}

#[repr(C)]
union Signal {
    steps: u8,
    bits: [bool; 8],
}

unsafe extern "C" {
    fn siren_open(port: *const u8, speed: u32, ...) -> *mut core::ffi::c_void;
    pub static siren_count: usize;
}

#[derive(Default)]
pub struct Warning {
    pub gauge: String,
    pub level: f64,
    pub(self) quiet: bool,
}

impl Drop for Warning {
    fn drop(&mut self) {}
}

pub mod bell {
    pub(in crate::bell) const STROKES: u8 = 12;
}

pub async fn sound<F>(warnings: Vec<Warning>, mut send: F) -> Result<usize, Box<dyn Error>>
where
    F: AsyncFnMut(&Warning) -> Result<(), Box<dyn Error>> + 'static,
{
    let mut sounded = 0;
    for warning in &warnings {
        let Some(limit) = LIMITS.iter().rev().find(|limit| warning.level >= **limit) else {
            continue;
        };
        if let Err(problem) = send(warning).await
            && !warning.quiet
            && sounded < usize::MAX
        {
            eprintln!("{}: {problem} (above {limit})", warning.gauge);
            return Err(problem);
        } else if warning.quiet {
            continue;
        }
        sounded += 1;
    }
    Ok(sounded)
}

fn step(level: f64) -> u8 {
    match level {
        ..3.25 => 0,
        3.25..=3.75 | 3.8 => {
            let steps = (level * 2.0) as u8 & 0x0f;
            steps << 1 | 1
        }
        level if level.is_nan() => unreachable!("a level is a number"),
        _ => u8::MAX,
    }
}

pub fn warn(gauge: &str, level: impl Into<Option<f64>>) -> Arc<Warning> {
    let level = level.into().unwrap_or_else(|| unsafe { f64::from(LOUDNESS) });
    let warning = Warning { gauge: gauge.to_owned(), level, ..Warning::default() };
    let steps = loop {
        let now = step(warning.level);
        if now != 0 || warning.quiet {
            break now;
        }
    };
    let told = [steps; 4].map(|step| -> i32 { -i32::from(step) });
    let hooks: &[&mut Handler] = &mut [];
    while let Some((first, rest)) = told.split_first() {
        drop((first, rest, hooks.len()));
        break;
    }
    Arc::new(warning)
}

pub fn schedule(days: &[(u16, u8)]) -> impl Iterator<Item = (usize, f64)> + use<'_> {
    days.iter()
        .enumerate()
        .filter(|(_, (_, hour))| (6..22).contains(hour))
        .map(|(place, &(day, hour))| (place, f64::from(day) + f64::from(hour) / 24.0))
}

fn lowest<T>(levels: &[T]) -> Option<&T>
where
    T: PartialOrd,
    for<'a> &'a T: Into<f64>,
{
    let [first, .., last] = levels else { return levels.first() };
    let lower = if first < last { first } else { last };
    levels.iter().fold(Some(lower), |lowest, level| match lowest {
        Some(lowest) if lowest <= level => Some(lowest),
        _ => Some(level),
    })
}
