"""Judgement calls, chapter by chapter."""
