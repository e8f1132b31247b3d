"""Learned detectors, applied to one small picture. Set-up brings their models as data; see `models`."""
