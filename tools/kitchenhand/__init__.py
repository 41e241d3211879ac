"""Behind `./spoon`: sets the machine up, keeps the database, serves, tests. Standard library only."""
