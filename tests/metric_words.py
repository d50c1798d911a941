"""Words that a shop of ounces and inches is never shown outside a name."""

import re

METRIC_WORD = re.compile(
    r"(?<![\w.])\d[\d.,]*\s?(?:g|kg|mm|cm|m|m²|mm²|ml|l|°C|g/m²|kg/m²|g/ml|g/cm³)(?![\w/²³])"
    r"|\b(?:millimetres?|metres?|grams?|litres?|kilos?|mm|g/m2|m2)\b|°C|g/m²"
)
