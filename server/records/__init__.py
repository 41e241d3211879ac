"""What an inspector relies on: rows that are only ever added, each chained to the one before by a hash."""
