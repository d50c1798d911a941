"""Joints: volumes, pastes, tabbing, and what the shop learns of its fillers."""
