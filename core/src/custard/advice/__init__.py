"""Judgement built from the physics: the window of a mix, what it will be like, what to do."""
