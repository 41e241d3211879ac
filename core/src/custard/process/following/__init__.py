"""A cook that happens or happened: followed through its readings, replayed, or rehearsed at no stove."""
