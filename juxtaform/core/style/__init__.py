"""In which hand a picture is made, and where along a sequence the hand changes."""
