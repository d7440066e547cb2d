"""What a result teaches: misses, corrections, the pick, finishing, the enlarger."""
