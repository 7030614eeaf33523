"""What is kept: the SQLite database and the files beside it."""
