"""The version of this program."""

VERSION = "0.2.0"
