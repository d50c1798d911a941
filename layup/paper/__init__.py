"""What every print is made of: its face, its tags, its kit of flowing pieces, its drawings."""
