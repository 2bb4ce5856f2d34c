"""Vellmark Saltworks: a made-up coastal salt works with people, machines, plans and finished
runs."""
