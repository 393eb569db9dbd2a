//! Choices that look made by chance.

/// Numbers that look chosen by chance, and are the same every time (Vigna's splitmix64).
pub struct Chance(pub u64);

impl Chance {
    /// The next number.
    pub fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        z ^ (z >> 31)
    }

    /// A number below a bound; 0 where that is 0.
    pub fn below(&mut self, bound: usize) -> usize {
        (self.next() % bound.max(1) as u64) as usize
    }

    /// Whether something happens that happens once in so many times.
    pub fn one_in(&mut self, count: usize) -> bool {
        self.below(count) == 0
    }
}
