"""What every place shares: refusals, and text that can be stored and printed."""
