"""The page that a kitchen's wall screen shows: read by everybody, touched by nobody."""
