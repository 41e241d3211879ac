"""`./spoon soak`: a kitchen at work for an hour while its processes are killed, its disk fills up and its
network fails; afterwards it is counted what was lost."""
