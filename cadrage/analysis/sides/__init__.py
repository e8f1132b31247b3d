"""Whether a shot can go on beyond its edges: for every side, why, and until when."""
