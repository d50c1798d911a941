/** What things are laid on, as one chooses it. */
export const substrates = [
  ["bare plywood", "Bare plywood"],
  ["timber", "Timber"],
  ["sanded laminate", "Sanded laminate"],
  ["cured polyester", "Cured polyester"],
  ["cured epoxy", "Cured epoxy"],
  ["foam core", "Foam core"],
  ["polystyrene foam", "Polystyrene foam"],
  ["aluminium", "Aluminium"],
  ["concrete", "Concrete"],
  ["waxed mould", "Waxed mould"],
] as const;
