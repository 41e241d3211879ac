"""The Stove: batches, from the Slip to the verdict."""
