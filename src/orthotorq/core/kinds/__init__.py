"""Kinds of pass and of stage, a file each: form, plan, load, step, words, time. The registries are
built from the files."""
