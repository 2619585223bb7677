"""What is held apart from looks: values by hand, levels as bytes, parked channels."""
