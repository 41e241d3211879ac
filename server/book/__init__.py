"""The Book: a kitchen's formulas and every version of each."""
