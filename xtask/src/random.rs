//! Numbers by chance, for whoever damages samples or chooses settings.

/// Numbers that are the same for the same seed (splitmix64).
pub struct Random(pub u64);

impl Random {
    /// A number below a limit.
    pub fn below(&mut self, limit: usize) -> usize {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut mixed = self.0;
        mixed = (mixed ^ (mixed >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        mixed = (mixed ^ (mixed >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        ((mixed ^ (mixed >> 31)) % limit.max(1) as u64) as usize
    }
}
