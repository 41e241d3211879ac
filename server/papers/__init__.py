"""Papers: what is printed as PDF, set by a worker so that no request waits for it."""
