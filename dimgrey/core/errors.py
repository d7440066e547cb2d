"""What the core raises when a value cannot be used: a sentence that names the rule, the value and the way out."""


class CoreError(ValueError):
    """A refused value. `parameter` names the field, `code` is a lower-case word with hyphens for machines."""

    def __init__(self, message, *, parameter="", code="refused"):
        super().__init__(message)
        self.parameter = parameter
        self.code = code


class OutOfRange(CoreError):
    """A number outside the range in which the rule holds."""


class Unreadable(CoreError):
    """Text that is not in any notation the rule knows."""


class NotPlaced(CoreError):
    """A plan was asked for although no tone is placed yet."""


def require_positive(value, parameter, hint):
    """Return `value` as a float above 0 and finite; raise OutOfRange with `hint` otherwise."""
    number = float(value)
    if not 0 < number < float("inf"):
        name = parameter.replace("_", " ").capitalize()
        raise OutOfRange(
            f"{name} must be more than 0 (got {value:g}). {hint}", parameter=parameter, code="not-positive"
        )
    return number
