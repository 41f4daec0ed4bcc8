"""The fixed words of a label in each language that a site may print beside English. Translations are our own: whoever
prints them has them read by somebody who speaks the language (docs/methods/labels.md)."""

from __future__ import annotations

LABEL_WORDS: dict[str, dict[str, str]] = {
    "en": {
        "danger": "DANGER", "warning": "WARNING", "hazard": "Arc flash and shock hazard",
        "requires": "Qualified persons only. Protective equipment required.",
        "forbids": "No energized work here. De-energize and verify first.",
        "voltage": "Nominal voltage", "energy": "Incident energy at", "category": "PPE category",
        "boundary": "Arc-flash boundary", "limited": "Limited approach", "restricted": "Restricted approach",
        "avoid": "avoid contact", "gloves": "Gloves", "no_figure": "Incident energy unknown",
        "no_gloves": "Gloves: no class for this voltage",
    },
    "es": {
        "danger": "PELIGRO", "warning": "ADVERTENCIA", "hazard": "Riesgo de arco y choque eléctrico",
        "requires": "Solo personal calificado. Use equipo de protección.",
        "forbids": "Prohibido trabajar con tensión. Desenergice y verifique.",
        "voltage": "Tensión nominal", "energy": "Energía incidente a", "category": "Categoría de EPP",
        "boundary": "Límite de arco", "limited": "Aproximación limitada", "restricted": "Aproximación restringida",
        "avoid": "evite el contacto", "gloves": "Guantes", "no_figure": "Energía incidente desconocida",
        "no_gloves": "Guantes: ninguna clase para esta tensión",
    },
    "fr": {
        "danger": "DANGER", "warning": "AVERTISSEMENT", "hazard": "Risque d’arc et de choc électriques",
        "requires": "Personnel qualifié seulement. Protection obligatoire.",
        "forbids": "Aucun travail sous tension. Mettre hors tension et vérifier.",
        "voltage": "Tension nominale", "energy": "Énergie incidente à", "category": "Catégorie d’EPI",
        "boundary": "Périmètre d’arc", "limited": "Approche limitée", "restricted": "Approche restreinte",
        "avoid": "éviter le contact", "gloves": "Gants", "no_figure": "Énergie incidente inconnue",
        "no_gloves": "Gants : aucune classe pour cette tension",
    },
    "de": {
        "danger": "GEFAHR", "warning": "WARNUNG", "hazard": "Störlichtbogen und elektrischer Schlag",
        "requires": "Nur Elektrofachkräfte. Schutzausrüstung tragen.",
        "forbids": "Nicht unter Spannung arbeiten. Freischalten und prüfen.",
        "voltage": "Nennspannung", "energy": "Einfallende Energie bei", "category": "PSA-Kategorie",
        "boundary": "Lichtbogengrenze", "limited": "Annäherungszone", "restricted": "Gefahrenzone",
        "avoid": "Berührung vermeiden", "gloves": "Handschuhe", "no_figure": "Einfallende Energie unbekannt",
        "no_gloves": "Handschuhe: keine Klasse für diese Spannung",
    },
}  # fmt: skip
