"""The Log: what was planned beside what happened. Has no tables of its own; it reads the Stove's."""
