"""The Grind room: sieve samples and what they say of a grinder, matches made from them, doses timed and weighed, filters tested for flow."""
