"""What is in the fridge and the freezer, and where it goes."""
