"""What is on this device: posts begun without a network, until they are sent."""
