"""Heat: the compiled kernel, the pan by place, tempering, infusing, what is stirred in off the heat."""
