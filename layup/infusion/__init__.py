"""Infusion: where the resin goes, when it arrives there, and whether it is still liquid by then."""
