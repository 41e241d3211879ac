"""The day: what is wanted, who does what when, lists, and what it really took."""
