"""What the logged brews come to: Measure."""
