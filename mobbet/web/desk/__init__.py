"""The desk: every post in lists, what is done with many, the strip and the rhythm."""
