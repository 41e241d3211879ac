"""Photographs of batches, at the moment of the work when they were taken."""
