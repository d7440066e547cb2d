"""What was wanted, what is missed and what is proposed, as the plan file keeps them."""

from dimgrey.core.judging.proposals import ACT


def as_json(found, proposals, wanted, result):
    """(wanted, missed, proposals) as plain values, for the plan file. found: Judgement. proposals: Proposal each. wanted: Wanted. result: a Plan."""
    prints = {tone.name: tone.printed for tone in result.tones}
    wished = [*map(_wish, wanted.wishes), *(_texture(*each) for each in wanted.textures.items())]
    missed = [
        {
            "wish": wish.words,
            "missed_by": round(zones, 6),
            "grave": wish.is_reversed_in(prints),
            "now": wish.miss_words(prints),
        }
        for wish, zones in found.missed
    ]
    return wished, missed, [_proposal(each) for each in proposals]


def _wish(wish):
    return {
        "wish": wish.words,
        "kind": wish.kind,
        "tones": list(wish.tones[:2] if wish.kind in ("lightest", "darkest") else wish.tones),
        "span": list(wish.span) if wish.span else None,
        "zones": round(wish.zones, 6),
        "source": wish.source,
        "key": wish.key,
    }


def _texture(name, kind):
    return {
        "wish": f"{name} {'keeps texture' if kind == 'needed' else 'may be empty'}",
        "kind": "texture" if kind == "needed" else "empty",
        "tones": [name],
        "span": None,
        "zones": 0.0,
        "source": "words",
        "key": f"texture: {name}",
    }


def _proposal(proposal):
    return {
        "what": proposal.what,
        "serves": list(proposal.serves),
        "gain": round(proposal.gain, 6),
        "score": round(proposal.score, 6),
        "cost": list(proposal.costs),
        "setting": proposal.setting,
        "owned": proposal.owned,
        "act": {"verb": ACT, "code": proposal.code},
    }
