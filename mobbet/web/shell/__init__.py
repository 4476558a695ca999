"""What all screens share: the app, the door, sessions, rendering, the bar, background tasks."""
