//! Harmonics of the tide at Saltmarsh, laid out by hand.

const QUAY: f64  = 51.874; // the north wall
const MOLE: f64  = 1.272;  // the head

pub struct Harmonic {
    name:  String,
    phase: f64,
}

fn phases(quay: f64,
          mole: f64) -> [[f64; 3]; 2] {
    let late = quay
             + mole;
    draw(quay,
         late);
    let flags = (EBB | FLOOD) << 1;
    [
        [ 1.0,  20.0, -3.0],
        [10.0,   2.0,  3.0],
    ]
}
