"""The vacuum bag: what lies in it, what pulls on it, and by when it must be down."""
