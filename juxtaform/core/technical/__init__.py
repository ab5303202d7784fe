"""What is wrong with a picture as a file: softness, compression, banding, lettering that nobody asked for."""
