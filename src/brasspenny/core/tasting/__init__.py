"""The table: methods and rounds, codes and orders, sheets, passes, the seal, words."""
