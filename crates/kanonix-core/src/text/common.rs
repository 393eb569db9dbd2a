//! What two texts begin and end with together.

/// So many bytes are compared at once.
const CHUNK: usize = 256;

/// How many bytes two texts have in common at their beginning.
pub(super) fn prefix(one: &[u8], other: &[u8]) -> usize {
    let chunks = one.chunks_exact(CHUNK).zip(other.chunks_exact(CHUNK));
    let same = chunks.take_while(|(a, b)| a == b).count() * CHUNK;
    let rest = one[same..].iter().zip(&other[same..]);
    same + rest.take_while(|(a, b)| a == b).count()
}

/// How many bytes two texts have in common at their end.
pub(super) fn suffix(one: &[u8], other: &[u8]) -> usize {
    let chunks = one.rchunks_exact(CHUNK).zip(other.rchunks_exact(CHUNK));
    let same = chunks.take_while(|(a, b)| a == b).count() * CHUNK;
    let (one, other) = (&one[..one.len() - same], &other[..other.len() - same]);
    let rest = one.iter().rev().zip(other.iter().rev());
    same + rest.take_while(|(a, b)| a == b).count()
}
