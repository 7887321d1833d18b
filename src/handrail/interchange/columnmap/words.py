"""The trade's words for what tables hold, in some languages, by which columns and values are recognised."""

from __future__ import annotations

import re
import unicodedata
from functools import lru_cache

_ID = r"(?: ?(?:id|ids|no|nr|num|number|numero|name|nom|nome|label|bez|bezeichnung|tag|key|#))?"
_NODE = "node|joint|point|pt|knot|knoten|punkt|noeud|nodo|nudo|punto|knoop|wezel"
_MEMBER = "member|element|elem|bar|beam|rod|line|stab|staebe|trager|barre|poutre|barra|asta|viga|elemento|staaf|pret"
_I = "i|a|1|start|from|first|begin|beginning|anfang|von|debut|origine|inizio|iniziale|inicio|inicial|initial"
_J = "j|b|2|end|to|second|last|finish|ende|nach|bis|fin|finale|final|fine|extremite|eind"
_CASE = (
    "case|load case|loadcase|lc|lastfall|lf|cas|cas de charge|caso|caso di"
    " carico|condizione|hipotesis|hypothese|belastingsgeval|load|loading|action"
)
_COMBINATION = (
    "combination|combo|comb|load combination|load"
    " combo|lk|kombination|lastkombination|combinaison|combinazione|combinacion|combinatie|design case"
)
_RESULT = rf"result|{_CASE}|{_COMBINATION}"


def _named(words: str) -> str:
    return rf"^(?:{words})s?{_ID}$"


def _at(words: str) -> str:
    """A node at one end: `node i`, `start node`, `i-node`, `noeud debut`, `anfangsknoten`."""
    return rf"^(?:(?:{words})|(?:{_NODE}|end) ?(?:{words})|(?:{words}) ?(?:{_NODE}|end))$"


# names by which a column is known; the first that fits wins
WORDS: dict[str, str] = {
    "node": _named(_NODE),
    **{
        c: (
            rf"^(?:{c}|{words}|{c} ?coord\w*|coord\w* ?{c}|(?:coord\w*|position|pos|location|xyz) ?(?:{c}|{k})|{c}"
            r" ?(?:value|pos))$"
        )
        for k, (c, words) in enumerate(
            (
                ("x", "east|easting"),
                ("y", "north|northing"),
                ("z", "height|elevation|elev|level|hohe|cote|quota|altura"),
            )
        )
    },
    "member": _named(_MEMBER),
    "i": _at(_I),
    "j": _at(_J),
    "section": (
        r"(?:section|profile|shape|size|designation|querschnitt|profil|sezione|profilo|seccion|perfil|doorsnede)"
    ),
    "grade": r"(?:grade|material|steel|werkstoff|stahl|materiau|acier|nuance|materiale|acciaio|acero|kwaliteit|mat\b)",
    "roll": r"^(?:roll|rotation|beta|angle|turn|drehwinkel|drehung|stabdrehwinkel|rotazione|giro|gamma)(?: ?angle)?$",
    "release_i": (
        r"^(?:releases?|hinges?|pins?|gelenke?|relachements?|articulations?|cerniere?|rotulas?|liberaciones?) ?(?:at"
        rf" )?(?:{_I})$"
    ),
    "release_j": (
        r"^(?:releases?|hinges?|pins?|gelenke?|relachements?|articulations?|cerniere?|rotulas?|liberaciones?) ?(?:at"
        rf" )?(?:{_J})$"
    ),
    "physical": r"^(?:physical|piece|part|physical member|bauteil|piece of steel|group)$",
    "role": r"^(?:role|type|kind|usage|design ?type|typ|art|genre|tipo|soort|nature)$",
    "result": _named(_RESULT),
    "end": _named("end|node ?end|which ?end|side|seite|ende|stelle|extremite|bout|estremo|extremo|uiteinde|at ?end"),
    "distance": (
        r"^(?:at|station|distance|position|location|where|x ?/ ?l|pos|x|stelle|stelle ?x|ort|x"
        r" ?position|abscisse|ascissa|posicion|plaats|"
        r"x ?local|along)$"
    ),
    "case": _named(_CASE),
    "title": (
        r"(?:title|words|description|comment|bezeichnung|beschreibung|libelle|descrizione|descripcion|omschrijving|name)"
    ),
    "nature": (
        r"^(?:nature|category|action|type|kind|class|typ|art|einwirkung|natura|naturaleza|natureza|tipo|categorie|categoria|load"
        r" ?type)$"
    ),
    "combination": _named(_COMBINATION),
    "set": (
        r"^(?:set|state|limit ?state|kind|type|situation|grenzzustand|etat ?limite|stato ?limite|estado(?: ?limite)?|"
        r"art|genre|tipo)$"
    ),
    "method": r"^(?:method|design|design by|code|by|verfahren|methode)$",
    "factor": r"^(?:factor|coefficient|coeff|scale( ?factor)?|multiplier|faktor|beiwert|facteur|coef|fattore)$",
    "terms": (
        r"^(?:terms?|formula|sum|equation|expression|definition|formel|rule|formule|espressione|content|combination"
        r" of)$"
    ),
    "grid": r"^(?:grid|axis|line|achse|rasterlinie|axe|file|asse|eje)(?: ?(?:line|id|no|name|label))?$",
    "piece": _named("piece|mark|assembly|part|bauteil|position|element|member"),
    **{f"{c}{k}": rf"^{c} ?{k}$" for c in "z" for k in (1, 2)},
    "top": r"^(?:top|top of steel|ok|upper edge)$",
    "level": (
        r"^(?:level|floor|stor(?:e?y|ies)|geschoss|ebene|niveau|etage|piano|livello|planta|nivel|verdieping)(?:"
        r" ?(?:id|no|name|label))?$"
    ),
    **{
        c: rf"^(?:{c[0]} ?{c[1]}|{c[0]} ?{at}|{at} ?{c[0]}|{at} {'east|easting' if c[0] == 'x' else 'north|northing'})$"
        for c, at in (("x1", "(?:start|from)"), ("y1", "(?:start|from)"), ("x2", "(?:end|to)"), ("y2", "(?:end|to)"))
    },
    **{
        f"u{c}": (
            rf"^(?:u{c}|(?:restraint|fix(?:ed)?|held|t|d|u|trans(?:lation)?|support|w) ?{c}(?: held| fixed)?|{c}"
            r" ?(?:fixed|held|translation|restrained))$"
        )
        for c in "xyz"
    },
    **{
        f"r{c}": (
            rf"^(?:r{c}|(?:rotation|rot|r|fi|phi|restraint r|fix r|support r) ?{c}(?: held| fixed)?|{c}"
            rf" ?(?:rotation|rot)|about {c})$"
        )
        for c in "xyz"
    },
}

# loads along members: which way, where from and to, how large
LOADED: dict[str, str] = {
    "direction": r"^(?:(?:load )?(?:direction|dir|towards|axis|richtung|sens|direzione|direccion|richting)|axe)$",
    "kind": r"^(?:(?:load )?(?:kind|type|form|distribution|art|typ|genre|tipo|soort))$",
    "from": (
        r"^(?:from|start|begin|a|d1|x1|dist(?:ance)? ?(?:1|a|start|i)|start"
        r" ?dist(?:ance)?|von|anfang|debut|de|da|desde|van)$"
    ),
    "to": r"^(?:to|end|b|d2|x2|dist(?:ance)? ?(?:2|b|end|j)|end ?dist(?:ance)?|bis|ende|fin|jusqua|hasta|tot)$",
    "value": (
        r"^(?:(?:load )?(?:value|size|magnitude|intensity|amount|load|w|q|p|wert|grosse|last|valeur|charge|valore|"
        r"carico|valor|carga|waarde)(?: ?(?:1|a|i|start))?)$"
    ),
    "value_to": (
        r"^(?:(?:load )?(?:value|size|magnitude|intensity|w|q|p|wert|valeur|valore|valor|waarde) ?(?:2|b|j|end|to))$"
    ),
}
KINDS_OF_LOAD = (
    ("point", ("point", "conc", "single", "einzel", "ponct", "punt")),
    (
        "distributed",
        (
            "dist",
            "uniform",
            "udl",
            "line",
            "linear",
            "trap",
            "triang",
            "streck",
            "linie",
            "gleich",
            "repart",
            "unif",
            "q-last",
        ),
    ),
)
# concrete under supports
EDGES = ("edge_xm", "edge_xp", "edge_ym", "edge_yp")
_TO_EDGE = r"(?:(?:edge|to edge|edge distance|distance|rand|bord|bordo|borde) ?)?"
CONCRETE: dict[str, str] = {
    "fc": (
        r"^(?:f ?'? ?c(?:k)?'?|fck|(?:concrete )?(?:strength|festigkeit|resistance|resistenza|resistencia)|concrete)$"
    ),
    "thickness": r"^(?:thick(?:ness)?|depth|h|dicke|hohe|epaisseur|spessore|canto|espesor|dikte)$",
    "kind": r"^(?:kind|type|what|art|typ|genre|tipo|soort)$",
    **{
        ours: rf"^{_TO_EDGE}(?:{words})$"
        for ours, words in zip(
            EDGES,
            (
                r"west|xm|x ?minus|ouest|ovest|oeste",
                r"east|\+ ?x|x ?\+|xp|x ?plus|ost|est|este",
                r"south|ym|y ?minus|sud|sur",
                r"north|\+ ?y|y ?\+|yp|y ?plus|nord|norte",
            ),
            strict=True,
        )
    },
    "turn": r"^(?:turn|rotation|angle|drehung|giro)$",
    "cracked": r"^(?:cracked|gerissen|fissure|fessurato|fisurado)$",
}
FOUNDATIONS = (
    ("pedestal", ("pedestal", "pier", "plinth", "sockel", "stutze", "socle", "plinto", "pilastr")),
    ("footing", ("foot", "pad", "spread", "fundament", "semelle", "zapata")),
    ("slab", ("slab", "mat", "raft", "platte", "dalle", "radier", "platea", "losa", "plaat")),
)  # fmt: skip

_SHEAR, _MOMENT = (
    r"(?:f|v|q|t|s|shear|shear force|querkraft|effort tranchant|taglio|cortante|dwarskracht)",
    (
        r"(?:m|moment|bending|bending moment|biegemoment|moment flechissant|momento|(?:momento"
        r" )?(?:flector|flettente)|buigend moment|buigmoment)"
    ),
)
_STRONG, _WEAK = "(?:web|major|strong|in plane)", "(?:side|minor|weak|out of plane)"
# a member's end forces; y and z as the program has them, statics says which is the web
COMPONENTS: dict[str, str] = {
    "Fx": (
        r"^(?:f ?x|n|n ?x|p|axial|normal|thrust|normalkraft|effort normal|normale|sforzo normale|axil|normaalkracht)(?:"
        r" ?force)?$"
    ),
    "Fy": rf"^(?:{_SHEAR} ?y|{_STRONG} ?shear|{_SHEAR} ?{_STRONG})$",
    "Fz": rf"^(?:{_SHEAR} ?z|{_WEAK} ?shear|{_SHEAR} ?{_WEAK})$",
    "Mx": r"^(?:m ?x|t|m ?t|torsion|torque|twist|torsionsmoment|momento torcente|torsor|moment ?x|torsional moment)$",
    "My": rf"^(?:{_MOMENT} ?y|{_WEAK} ?(?:moment|bending)|{_MOMENT} ?{_WEAK})$",
    "Mz": rf"^(?:{_MOMENT} ?z|{_STRONG} ?(?:moment|bending)|{_MOMENT} ?{_STRONG})$",
}
# at nodes, about the global axes
AT_NODES: dict[str, str] = {
    **{f"F{c}": rf"^(?:f ?{c}|r ?{c}|p ?{c}|{c}|force ?{c}|kraft {c}|h ?{c}|a ?{c}|reaction ?{c})$" for c in "xyz"},
    **{
        f"M{c}": rf"^(?:m ?{c}|m ?r ?{c}|r ?m ?{c}|about {c}|moment ?{c}|um {c}|autour {c}|intorno {c})$" for c in "xyz"
    },
}
SIX = ("Fx", "Fy", "Fz", "Mx", "My", "Mz")
RELEASED = {"Fx": "N", "Fy": "Vy", "Fz": "Vz", "Mx": "T", "My": "My", "Mz": "Mz"}
YES = (
    "yes",
    "true",
    "x",
    "y",
    "1",
    "fixed",
    "held",
    "ja",
    "oui",
    "si",
    "fest",
    "starr",
    "bloque",
    "fixe",
    "fijo",
    "vast",
    "restrained",
    "released",
    "wahr",
    "vrai",
)
RELEASES = (
    "yes",
    "true",
    "x",
    "y",
    "1",
    "1.0",
    "ja",
    "oui",
    "si",
    "released",
    "wahr",
    "vrai",
    "free",
    "frei",
    "libre",
    "libero",
    "los",
)  # of yes and no
NO = (
    "no",
    "false",
    "",
    "-",
    "0",
    "free",
    "nein",
    "non",
    "frei",
    "libre",
    "libero",
    "los",
    "n",
    "falsch",
    "faux",
    "0.0",
    "none",
)
FIRST_END = (
    "i",
    "start",
    "a",
    "1",
    "0",
    "anfang",
    "debut",
    "inizio",
    "inicio",
    "begin",
    "first",
    "i end",
    "end i",
    "von",
    "left",
    "beginning",
    "origine",
)
LAST_END = (
    "j",
    "end",
    "b",
    "2",
    "1",
    "ende",
    "fin",
    "fine",
    "final",
    "last",
    "j end",
    "end j",
    "j-end",
    "far",
    "bis",
    "right",
    "extremite",
    "eind",
)
ENVELOPES = r"\b(env|envelope|enveloppe|max|min|maxim\w*|minim\w*|umh\w*|inviluppo|envolvente)\b"
TOTALS = r"^(total|sum|summe|somme|totale|suma|end of|ende|fin\b|fine\b|count|number of|anzahl|nombre)"
NATURES = (
    ("roof_live", ("roof", "dach", "toiture", "copertura", "cubierta")),
    ("snow", ("snow", "schnee", "neige", "neve", "nieve", "sneeuw")),
    ("dead", ("dead", "self", "permanent", "eigen", "standig", "propre", "proprio", "muerta", "propio")),
    ("seismic", ("seis", "quake", "earthq", "erdbeben", "sism", "aardbeving")),
    ("wind", ("wind", "vent", "viento")),
    (
        "live",
        (
            "live",
            "imposed",
            "nutz",
            "verkehr",
            "exploitation",
            "sovraccarico",
            "sobrecarga",
            "uso",
            "variable",
            "veranderlijk",
        ),
    ),
    ("temperature", ("temp", "therm", "warme")),
)
ROLES = (
    ("column", ("col", "post", "pillar", "stutze", "poteau", "pilastro", "pilar", "kolom", "stanchion")),
    ("brace", ("brac", "diag", "verband", "contrevent", "controvent", "arriostr", "schoor")),
    (
        "beam",
        (
            "beam",
            "girder",
            "joist",
            "rafter",
            "purlin",
            "trager",
            "riegel",
            "poutre",
            "solive",
            "trave",
            "viga",
            "ligger",
            "spandrel",
        ),
    ),
)
SETS = (
    ("overstrength", ("overstrength", "omega")), ("service", ("serv", "sls", "els", "gzg", "gebrauch", "eserciz")),
    ("strength", ("strength", "ultim", "lrfd", "asd", "uls", "elu", "gzt", "trag", "str", "design")),
)  # fmt: skip
METHODS = (
    ("ASD", ("asd", "allow", "zulassig")),
    ("LRFD", ("lrfd", "factored", "strength", "ultim", "uls", "elu", "gzt")),
)


@lru_cache(maxsize=65536)
def bare(name: str) -> str:
    """A column's name without its unit, accents and marks, in small letters."""
    text = re.sub(r"[\[(<{].*?[\])>}]", " ", name)
    text = unicodedata.normalize("NFKD", text.replace("œ", "oe").replace("ß", "ss"))
    text = "".join(c for c in text if not unicodedata.combining(c)).lower()
    text = (
        re.sub(r"(?<=[a-z])(?=end$|node$)", " ", re.sub(r"[_./\-:#]+", " ", text))
        if re.search(r"[_./\-:#]", text)
        else text
    )
    return re.sub(r"\s+", " ", text).strip()


@lru_cache(maxsize=65536)
def without_unit(name: str) -> str:
    """`bare`, and without a unit that is its last word."""
    text = bare(name)
    return re.sub(
        r"[ ,](?:kn|n|mn|kip|kips|lbf|lb|k|m|mm|cm|ft|in|deg|rad|knm|kn ?m|n ?mm|kip ?ft|kip ?in|k ?ft|ksi|mpa)$",
        "",
        text,
    )


def is_called(pattern: str, name: str) -> bool:
    """Whether a column is called so, with or without its unit."""
    own = (
        [name] if "." not in name.strip(".") else [name, name.strip(".").rsplit(".", 1)[-1]]
    )  # what it is of stands before a point, in a dump
    return any(re.search(pattern, bare(n)) or re.search(pattern, without_unit(n)) for n in own)


def meaning(kinds: tuple[tuple[str, tuple[str, ...]], ...], word: str) -> str:
    """Of which kind a word speaks; empty where of none."""
    low = bare(word)
    return next((kind for kind, words in kinds if low == kind or any(w in low for w in words)), "")


def component(name: str, words: dict[str, str] | None = None) -> str:
    """The component that a name is of; empty where of none."""
    return next((ours for ours, pattern in (words or COMPONENTS).items() if is_called(pattern, name)), "")
