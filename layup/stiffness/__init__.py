"""By how much what is laid stiffens what lies there. A comparison: nothing here says that it is strong enough."""
