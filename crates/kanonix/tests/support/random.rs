//! Choices that look chosen by chance, and are the same every time.

/// A generator of numbers that are the same on every machine (Marsaglia, *Xorshift RNGs*, 2003).
pub struct Random(u64);

impl Random {
    pub fn new(seed: u64) -> Random {
        Random(seed.wrapping_mul(0x9e37_79b9_7f4a_7c15) | 1)
    }

    pub fn below(&mut self, limit: usize) -> usize {
        self.0 ^= self.0 << 13;
        self.0 ^= self.0 >> 7;
        self.0 ^= self.0 << 17;
        (self.0 % limit.max(1) as u64) as usize
    }

    /// A byte of a text at which a character begins, or its end.
    pub fn place(&mut self, text: &str) -> usize {
        let at = self.below(text.len() + 1);
        (0..=at).rev().find(|at| text.is_char_boundary(*at)).unwrap_or(0)
    }
}
