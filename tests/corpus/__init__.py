"""Inputs as people have them, made by a script; what is to come out of each is decided by an independent reader.

`make corpus` goes through all of them and writes docs/footage.md; `make test`
through a sixtieth, another one every day.
"""
