"""The demo practice: businesses simulated from a fixed seed, their books taken in like anybody's."""
