"""The version of this program."""

VERSION = "0.3.0"
