"""What a user can do, one module a group of verbs; the web pages and the command line call the same
functions."""
