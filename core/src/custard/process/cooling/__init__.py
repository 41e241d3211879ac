"""Off the heat: how fast it cools, what it lies in, and what becomes of it later."""
