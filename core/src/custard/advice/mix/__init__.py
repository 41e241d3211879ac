"""What a mix is and does: its window, where it is stopped, what it is like, how sure that is."""
