"""A batch that is cooked: how it keeps, its record, what hob, pan and pace learn from it."""
