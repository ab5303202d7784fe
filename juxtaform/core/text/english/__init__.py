"""English sentences read: words and what they can mean, parts of speech, who does what to whom and where."""
