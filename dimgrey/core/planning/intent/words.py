"""The words in which photographers say what a picture shall be, and how a sentence falls into them.

A list of words is no grammar: what stands here was gathered from sentences people write beside their plans. What is in no list is
read as a thing where a name may stand, and asked about; it is never guessed. Source: HANDBOOK 21.
"""

import re
from dataclasses import dataclass
from functools import lru_cache


def words(text):
    """Words of a text as a set."""
    return frozenset(text.split())


DARK = words(
    "dark deep dim sombre gloomy brooding moody shadowy heavy dusky dense darker darken darkens darkened deepen deepens "
    "deepened deeper sink sinks sunken subdued"
)
BLACK = words("black blackest inky jet ink pitch blacken blackens blackened blacker")
LIGHT = words(
    "light bright pale luminous radiant brilliant airy gleaming glowing shining sparkling loud lighter brighter paler glow "
    "glows shine shines gleam gleams ring rings sparkle sparkles blaze blazes beam beams brighten brightens brightened "
    "lighten lightens lightened dazzling glaring shimmer shimmers glisten glistens glint glints glimmer glimmers glitter "
    "glitters"
)
WHITE = words("white whiten whitens snow-white whiter")
GREY = words("mid-grey middle-grey")
DULL = words("grey gray muddy mud dull murky")
COMPARED = {"darker": -1, "deeper": -1, "blacker": -1, "lighter": 1, "brighter": 1, "paler": 1, "whiter": 1}
EXTREME = {
    "darkest": -1, "deepest": -1, "blackest": -1, "dimmest": -1,
    "lightest": 1, "brightest": 1, "palest": 1, "whitest": 1, "loudest": 1,
}  # fmt: skip
DOING = words(
    "darken darkens darkened deepen deepens deepened blacken blackens blackened brighten brightens brightened lighten "
    "lightens lightened whiten whitens"
)
"""Of the words above those that do something to what follows them: "darken the sky"."""
TEXTURE = words(
    "texture textures textured detail details detailed drawing drawn structure readable legible modelling modeled modelled"
)
EMPTY = words(
    "empty blank bare featureless textureless detailless emptiness nothing-there goes_to_nothing burns_out blows_out "
    "blocks_up"
)
SILHOUETTES = words("silhouette silhouettes silhouetted cut-out cutout")
NEGATIONS = words(
    "not no never without nor neither avoid avoiding nothing don't doesn't mustn't isn't won't can't cannot shouldn't "
    "aren't nowhere rather_than instead_of less"
)
LOSING = words("lose loses losing lost loss")
ALLOWED = words("may can could might allowed free need_not indifferent")
MERGING = words(
    "merge merges merging melt melts melting blend blends blending fuse dissolve dissolves one_grey one_mass fade fades disappear "
    "disappears vanish vanishes runs_together same_tone"
)
ALONE_TOO = words("fade fades disappear disappears vanish vanishes dissolve dissolves")
"""Of these those that a thing may do by itself."""
FEARED = words("would threaten threatens tend tends risk danger too")
WISHED = words("let shall should must want wants make makes to")
PARTING = words(
    "part parts parted separate separates separated stands_out stands_apart apart detach detached distinct sets_off "
    "lifts_off"
)
AGAINST = words("against before in_front_of")
BEHIND = words("behind")
UPON = words("on upon")
OVER, UNDER = frozenset({"above", "over"}), frozenset({"below", "under", "beneath"})
ALONE = words("alone only sole")
PRONOUNS = words("it they its their them this these he she his her")
ALL = words("everything all anything")
OTHERS = words("all_others")
EXCEPT = words("except excepting save_for apart_from")
BREAKS = words(
    ", ; : ( ) but while whereas yet though although so because since until as_long_as where which whose when if though"
)
DETERMINERS = words("the a an this that these those its his her their my our every each both some any")
VERBS = words(
    "is are be was being been stand stands standing go goes going stay stays remain remains keep keeps keeping kept hold "
    "holds holding held let lets make makes made turn turns turned become becomes look looks read reads print prints "
    "printed fall falls lie lies want wants wanted wish wished need needs get gets put show shows see sees seem seems "
    "appear appears must shall should will would may can could might do does did have has having lead leads come comes give "
    "gives rise rises bring brings place place placed pull pulls leave leaves set sets retain retains preserve preserves "
    "save lose loses losing throw throws cut cuts carry carries render renders drop drops float floats emerge emerges try "
    "reach reaches reached sit sits hang hangs open opens wait waits loom looms sits sat rest rests end ends prefer like "
    "mind care"
)
FUNCTION = words(
    "and or of in at to into from for by with as than then through too very quite really almost nearly just still rather "
    "more most truly fully completely purely so up down out off there here also even both only well i we you one ones not "
    "no like between across along around near inside outside toward towards within beyond against before behind above over "
    "below under on upon in_front_of of_all anywhere everywhere whole entire possible "
    "soft hard warm cool cold quiet plain calm clean smooth gentle rich delicate subtle crisp simple good nice fine"
)
SOFTENERS = words(
    "very quite really almost nearly just still rather truly fully completely purely so even well all more most"
)
SHINING = words("window lamp candle sky sun moon side back street fire morning evening day")
"""What has a light of its own: "the window light" is no light window."""
SETTING = words("keep keeps let make hold want print render stay stays be is")
SHAPES = words(
    "shape shapes form forms outline outlines mass masses patch spot note notes thing things tone tones figure-shape plane "
    "block hole void cutout presence silhouette silhouettes accent accents"
)
"""What a tone is said to be: in "the stand as a black shape" it is the stand that is black."""
NOT_ASKED = words(
    "picture photograph frame image print scene day morning evening noon afternoon night mood feeling weather sun sunlight "
    "lamplight daylight light lights scale key contrast side end ends top bottom left right half moment end greys greyness "
    "it zone zones stop stops all rest other others eye eyes first last time times place kind way ground-glass paper film "
    "part parts"
)
"""Words after which nobody is asked which tone is meant: the picture as a whole, its light, words about words."""
SCENE_NOUNS = words(
    "sky skies cloud clouds tree trees leaf leaves foliage grass hill hills mountain mountains snow ice water sea lake "
    "river stream wall walls door doors doorway doorways gate window windows roof roofs chimney chimneys kiln house houses "
    "barn building buildings tower towers bridge road path street pavement stones stone rock rocks sand beach boat boats "
    "face faces skin hand hands hair coat shirt dress hat figure figures man men woman women girl boy child children person "
    "people potter sitter shadow shadows highlight highlights background foreground ivy brick bricks smoke steam mist fog "
    "fire flame flames lamp lamps candle room floor ceiling table cup bowl pot pots jar jars vase cloth linen curtain "
    "curtains flower flowers field fields fence post posts bark trunk trunks branches horse dog cat bird birds car train "
    "rails wheel glass metal iron steel wood timber clay slate tiles tile arch column columns statue reflection reflections "
    "horizon dunes cliff cliffs wave waves foam spray rain puddle mouth opening edge rim collar eyes mirror screen paper "
    "ware shelf shelves stand stall yard pit shed fireplace hedge crowd"
)
COLOUR_NAMES = words("blue red green yellow orange brown purple pink violet golden gold grey gray")
WHERE_WORDS = words(
    "the a an and with side sun sunlit sunny shade shaded shadow lit unlit left right front back upper lower cast under "
    "foot near far at in on of by behind top bottom inside outside edge part half first second third big small old new wet "
    "dry"
)
"""Words of a tone's name that say where or how it is and not what."""
PREPOSITIONS = words("in at of under behind on by near before over above below with inside")
ROLE_WORDS = {
    "sky": "sky", "background": "background", "backdrop": "background", "ground": "background", "skin": "skin", "face": "skin",
    "subject": "subject", "figure": "subject", "sitter": "subject", "person": "subject", "man": "subject", "woman": "subject",
    "shadow": "shadow", "highlight": "highlight",
}  # fmt: skip
"""Words that mean the one tone of a role where no tone has that name."""
QUANTITIES = {
    "a": 1.0, "an": 1.0, "one": 1.0, "two": 2.0, "three": 3.0, "four": 4.0, "five": 5.0, "half": 0.5, "a half": 0.5, "½": 0.5, "⅓": 1 / 3,
    "⅔": 2 / 3, "a third of": 1 / 3, "two thirds of": 2 / 3, "one and a half": 1.5, "two and a half": 2.5,
    "much": 2.0, "far": 2.0, "clearly": 1.0, "somewhat": 1 / 2,
    **dict.fromkeys(("slightly", "a little", "a bit", "a shade", "a touch", "a hair", "a trifle", "only just", "just", "barely"), 1 / 3),
}  # fmt: skip
_PHRASES = (
    (r"black[ -]and[ -]white", ""),
    (r"in front of", "in_front_of"),
    (r"st(?:and|ands|anding|ood) out(?: clearly| strongly| sharply)?", "stands_out"),
    (r"st(?:and|ands|anding) apart|keep(?:s)? apart|kept apart", "stands_apart"),
    (r"set(?:s)? off", "sets_off"),
    (r"lift(?:s|ed)? (?:off|itself)", "lifts_off"),
    (r"burn(?:s|t|ed)? out", "burns_out"),
    (r"bl(?:ow|ows|own) out", "blows_out"),
    (r"block(?:s|ed)? up", "blocks_up"),
    (r"(?:go|goes|fall|falls|drop|drops|sink|sinks|fade|fades) (?:away )?(?:in)?to nothing", "goes_to_nothing"),
    (r"rather than", "rather_than"),
    (r"instead of", "instead_of"),
    (r"need not|needn't", "need_not"),
    (r"(?:the rest|everything else|all the others|all else|anything else|all the rest|all other tones|the others|any other(?: tone)?|all others)", "all_others"),
    (r"(?:neither|not) (?:dark|deep) n?or (?:light|bright|pale)|(?:neither|not) (?:light|bright|pale) n?or (?:dark|deep)", "mid-grey"),
    (r"neither", "not"),
    (r"nor", "or"),
    (r"runs? together", "runs_together"),
    (r"(?:in |of |on )?the same (?:tone|value|brightness|zone)", "same_tone"),
    (r"no (?:(?:pure|empty|dead|blocked|solid|real|true) )?blacks", "no everything black"),
    (r"no (?:(?:pure|burnt|burned|blown|empty|dead|real|true) )?whites", "no everything white"),
    (r"^\s*(?:(?:i want|keep|hold|retain|with) )?(?:full |some |good )?(?:texture|details?|drawing) (?:everywhere|throughout|all over)", "everything keeps texture"),
    (r"(texture|details?|drawing) (?:in|on) ([^,;]+?) and (?:in|on) ", r"\1 in \2 and "),
    (r"(texture|details?|drawing) from ([^,;]+?) to ", r"\1 in \2 and "),
    (r"equally(?: gr[ea]y)?|(?:of )?equal (?:in )?(?:tone|value|brightness)", "same_tone"),
    (r"(?:just|only just) (?:short of|under|below|off) (?:pure )?white", "white with texture"),
    (r"(?:just|only just) (?:short of|over|above|off) (?:pure )?black", "black with texture"),
    (r"(?:keep|stop|prevent)s? ([^,;]+?) from (?:going|turning|becoming|getting|being)", r"\1 not"),
    (r"(?:keep|stop|prevent)s? ([^,;]+?) from burning out", r"\1 not burns_out"),
    (r"(?:keep|stop|prevent)s? ([^,;]+?) from blocking up", r"\1 not blocks_up"),
    (r"(?:keep|stop|prevent)s? ([^,;]+?) from (?:merging|melting|blending|running)", r"\1 not merge"),
    (r"see (?:every|each|all the) [a-z]+ (?:of|in|on)", "detail in"),
    (r"(keep|show|hold)s? (?:its|their|all its|all their) (?:folds?|grain|surface|joints|weave|veins|wrinkles|grooves|relief)", r"\1 texture"),
    (r"one (?:single )?(?=(?:dark|black|light|white|pale) (?:mass|shape|tone|form))", "one_mass "),
    (r"(?:deep|rich|full|real|true|solid) blacks(?= in)", "black"),
    (r"(behind|beside|around|near|beyond) (?:her|him|them|it)(?= (?:white|black|dark|bright|light|pale|empty|blank|is|are|may|must|shall|can|stays?|goes|deep)\b| *[,.;]| *$)", ""),
    (r"(?:nothing|no tone)(?: is| prints| falls)? (?:darker|deeper|lower) than(?= *@)|(?:nothing|no tone)(?: is| prints| falls)? (?:below|under)(?= *@)", "everything at_least"),
    (r"(?:nothing|no tone)(?: is| prints| falls)? (?:lighter|brighter|higher) than(?= *@)|(?:nothing|no tone)(?: is| prints| falls)? (?:above|over)(?= *@)", "everything at_most"),
    (r"as (dark|deep|black|light|bright|pale|white) as (?:possible|can be|it (?:can|will) (?:be|go)|(?:i|we) can(?: (?:get|make|have) (?:it|them))?|the (?:film|paper|light|sensor) allows)", r"\1"),
    (r"\s+(@\d+)\s+(?:or|and) (?:lower|darker|deeper|below|under|less)", r" at_most \1"),
    (r"\s+(@\d+)\s+(?:or|and) (?:higher|lighter|brighter|above|over|more)", r" at_least \1"),
    (r"sinks? into", "merges with"),
    (r"more (?:separation|contrast|distance|difference) between", "separate"),
    (r"less (?:separation|contrast|distance|difference) between", "merge"),
    (r"as an? (?:hole|void)", "black"),
    (r"let ([^,;]+?) burn(?! out)", r"let \1 burns_out"),
    (r"no tone", "nothing"),
    (r"nothing else", "no all_others"),
    (r"nothing", "no everything"),
    (r"(?:into )?(?:one|the same|a single) gr[ea]y", "one_grey"),
    (r"(?:middle|mid|medium)[ -]?(?:gr[ea]ys?|tones?)", "mid-grey"),
    (r"brush marks?", "texture"),
    (r"(?:no|not|never) (?:more|higher|lighter|brighter|whiter|paler) than(?= *@)|(?:not|never) (?:above|over)(?= *@)", "at_most"),
    (r"(?:no|not|never) (?:less|lower|darker|deeper|blacker) than(?= *@)|(?:not|never) (?:below|under)(?= *@)", "at_least"),
    (r"at most|at the most|up to", "at_most"),
    (r"at least", "at_least"),
    (r"as long as|as soon as", "as_long_as"),
    (r"of (?:them )?all|of (?:the )?(?:whole )?(?:picture|frame|scene)|in (?:the )?(?:whole )?(?:picture|frame|scene)", "of_all"),
    (r"(?:out of|away from|short of|free of|clear of)(?: pure| full| dead)? (?=black|white)", "not "),
    (r"(?:do not|don't|doesn't|need not|not) (?:mind|care)(?: if| whether| that)?", "indifferent"),
    (r"no need (?:for|of)|needs? no|not need(?: any)?", "indifferent not"),
    (r"except for|other than|with the exception of|but for", "except"),
    (r"(?:nowhere|never anywhere)", "no everything"),
    (r"(?:stay|stays|remain|remains|keep|hold|be|are|is)(?: very| quite| well)? open(?= *[,.;!?]| *$)", "keep texture"),
    (r"(keep|hold|leave)((?: [a-z]+){1,3}) open(?= *[,.;!?]| *$)", r"\1\2 texture"),
    (r"see into", "detail in"),
    (r"full(?:y)? of", "with"),
    (r"(high|low|snow|cut)-(key|white|out)", r"\1-\2"),
)  # fmt: skip
_ASIDE = re.compile(r", (?:but |and )?not the [a-z]+(?: [a-z]+)?,", re.I)
"""In "the sky, but not the cloud, goes dark" it is the sky that does."""
_RANGE = re.compile(r"\b(one|two|three|four|\d) (?:to|or) (?:two|three|four|five|\d)(?= (?:zones?|stops?)\b)")
"""Of "two to three zones" the two: at least so many."""
_COUNTED = re.compile(
    r"\b(a third of|two thirds of|half|one and a half|two and a half|a half|\d+(?:\.\d+)?|one|two|three|four|five|a|an|⅓|½|⅔)"
    r"(?: a| an| full| whole| good)?[ -](?:zones?|stops?)\b(?! (?:on|[ivx0-9@]))( and a half)?"
)
_MUCH = re.compile(
    r"\b(much|far|clearly|somewhat|slightly|a (?:little|bit|shade|touch|hair|trifle)|only just|just|barely)"
    r"(?= (?:darker|deeper|blacker|lighter|brighter|paler|whiter|less|more|apart|distinct|separated?)\b)"
)
_ON_FIGURE = re.compile(r"\b(on|to) (\d{1,2}(?:[½⅓⅔]|\.\d+)?)(?![\w½⅓⅔]| *(?:zones?|stops?|of|m\b|metres))")
_NUMERAL = r"(?:VIII|VII|VI|IV|IX|III|II|I|V|X|0)"
_PART = r"(?:[½⅓⅔]|\s*1/2|\s*1/3|\s*2/3)?"
_ZONE = re.compile(rf"\b(?:zones?\s+)?({_NUMERAL}{_PART})(?![\w½⅓⅔])|\bzones?\s+(\d+{_PART})(?![\w½⅓⅔])", re.UNICODE)
_AFTER_I = re.compile(
    r"\s+(?:want|need|see|would|like|must|can|think|am|wish|do|shall|will|have|could|plan|hope|mean|see)\b"
)
_BEFORE_I = re.compile(
    r"(?:\b(?:on|zone|zones|to|at|most|least|below|above|under|over|than|and|or|between|around|near)|[-–])\s*$", re.I
)
_TOKEN = re.compile(r"@\d+|#\d+(?:\.\d+)?|[a-zà-ÿ]+(?:['’][a-z]+)?(?:[-_][a-zà-ÿ]+)*|\d+(?:\.\d+)?|[½⅓⅔]|[,;:()]|[-–—]")


@dataclass(frozen=True)
class Sentence:
    """tokens: of one sentence, lower case, phrases as one word; "@k" stands for the k-th zone of `zones`, as it was written."""

    tokens: tuple
    zones: tuple


def sentences_of(text):
    """Sentence of each that a text has; a question wishes nothing."""
    parts = re.split(r"(?<=[.!?])(?=\s|$)|\n", text.replace("’", "'"))
    return tuple(_sentence(part.rstrip(" .!")) for part in parts if part.strip(" .!") and not part.endswith("?"))


def _sentence(text):
    zones, text = [], re.sub(r"[@#_]", " ", text)  # these mark what was taken out below

    def kept(match):
        written = match[1] or match[2]
        if written == "I" and (_AFTER_I.match(text[match.end() :]) or not _BEFORE_I.search(text[: match.start()])):
            return match[0]
        zones.append(written)
        return f" @{len(zones) - 1} "

    text = _ASIDE.sub("", text)
    said = _ZONE.sub(kept, text).lower()
    said = re.sub(r"'s\b", "", said)
    said = _RANGE.sub(r"\1", said)
    said = _COUNTED.sub(lambda m: f" #{_counted(m[1]) + (0.5 if m[2] else 0.0):.4f} ", said)
    said = _MUCH.sub(lambda m: f"#{QUANTITIES[m[1]]:.4f}", said)
    said = _ON_FIGURE.sub(lambda m: f"{m[1]} {_also(zones, m[2])}", said)
    for pattern, instead in _PHRASES:
        said = re.sub(rf"\b(?:{pattern})\b", instead, said)
    return Sentence(tuple(_split(said)), tuple(zones))


def _counted(text):
    return QUANTITIES[text] if text in QUANTITIES else float(text)


def _also(zones, text):
    zones.append(text)
    return f"@{len(zones) - 1}"


def _split(said):
    for token in _TOKEN.findall(said):
        if "-" in token and token not in ("high-key", "low-key", "snow-white", "cut-out", "mid-grey"):
            yield from (part for part in token.split("-") if part)
        else:
            yield token


@lru_cache(maxsize=4096)
def stem(word):
    """What a word and its plural share.

    >>> stem("leaves"), stem("skies"), stem("dress"), stem("kilns")
    ('leaf', 'sky', 'dress', 'kiln')
    """
    if word in ("leaves", "leaf"):
        return "leaf"
    if word.endswith("ies") and len(word) > 4:
        return word[:-3] + "y"
    if word.endswith("men"):
        return word[:-2] + "an"
    if word.endswith("es") and word[-3:-2] in "xs" and len(word) > 4:
        return word[:-2]
    return word[:-1] if word.endswith("s") and not word.endswith("ss") and len(word) > 3 else word
