"""What things are: ingredients, eggs, starches, parameters, and where each number comes from."""
