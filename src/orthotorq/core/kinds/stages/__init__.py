"""A file for every kind of stage; kinds that share a form share a file."""
