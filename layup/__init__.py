"""The core of Inch Cradle: the rules and the arithmetic of a layup, without interface, server or clock."""
