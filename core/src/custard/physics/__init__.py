"""Laws: one closed formula a function, SI units and degrees Celsius, no knowledge of formulas or time."""
