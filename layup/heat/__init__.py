"""The heat of a cure: in a cup, in a tray, on a mould; fitted, tabled, tried before it is poured."""
