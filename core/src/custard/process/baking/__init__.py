"""The oven: cups in their bath, how much each takes, sugar burnt on top."""
