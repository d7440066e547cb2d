from django import forms
from django.contrib.auth.forms import AuthenticationForm, PasswordChangeForm, PasswordResetForm, SetPasswordForm
from django.contrib.auth.password_validation import validate_password

from dimgrey.people.models import Person
from dimgrey.web.forms import Typed, TypedForm


class LookForm(forms.ModelForm):
    """Any of the four choices; those not sent stay as they are. back: the page to go back to."""

    back = forms.CharField(max_length=2000, required=False)

    class Meta:
        model = Person
        fields = ["surround", "mode", "tone_labels", "explains_words"]

    def __init__(self, data, instance):
        super().__init__(data, instance=instance)
        for name in list(self.fields):
            if name not in data and name != "back":
                del self.fields[name]


class PairForm(TypedForm):
    """The code that a phone was shown, and what it shall be called."""

    code = forms.CharField(
        max_length=20,
        widget=forms.TextInput({"class": "form-control", "autocapitalize": "characters", "autocomplete": "off"}),
    )
    name = forms.CharField(
        max_length=60, required=False, widget=forms.TextInput({"class": "form-control", "placeholder": "My phone"})
    )


class Styled(Typed):
    """Fields in the look of the house."""

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        for field in self.fields.values():
            usual = "form-select" if isinstance(field.widget, forms.Select) else "form-control"
            field.widget.attrs.setdefault("class", usual)
            field.widget.attrs.pop("autofocus", None)
            field.help_text = ""

    def sentence(self):
        """The first error in words, "" for none."""
        return next((errors[0] for errors in self.errors.values()), "")


class SignInForm(Styled, AuthenticationForm):
    """Name and password. carried: a form that was sent when the sign-in had ended."""

    carried = forms.CharField(max_length=200_000, required=False, widget=forms.HiddenInput)
    next = forms.CharField(max_length=2000, required=False, widget=forms.HiddenInput)
    error_messages = {
        "invalid_login": "The name and the password do not belong together. Both mind capital letters.",
        "inactive": "The name and the password do not belong together. Both mind capital letters.",
    }


class NewPasswordForm(Styled, SetPasswordForm):
    pass


class ChangePasswordForm(Styled, PasswordChangeForm):
    pass


class ForgottenForm(Styled, PasswordResetForm):
    pass


class JoinForm(Styled, forms.Form):
    """Who joins: a name of their own and a password."""

    name = forms.RegexField(
        r"^[\w.@+ -]{1,60}$",
        max_length=60,
        widget=forms.TextInput({"autocomplete": "username"}),
        error_messages={"invalid": "A name has letters, figures, blanks and . @ + -"},
    )
    email = forms.EmailField(
        required=False,
        label="Mail address, to set a new password by",
        widget=forms.EmailInput({"autocomplete": "email"}),
    )
    password = forms.CharField(
        max_length=200, widget=forms.PasswordInput({"autocomplete": "new-password"}), strip=False
    )
    again = forms.CharField(
        max_length=200,
        label="Password again",
        widget=forms.PasswordInput({"autocomplete": "new-password"}),
        strip=False,
    )

    def clean(self):
        data = super().clean()
        password, again, name = (data.get(key) for key in ("password", "again", "name"))
        if password != again:
            raise forms.ValidationError("The two passwords differ.")
        if password:
            validate_password(password, Person(username=name or ""))
        return data


class InviteForm(Styled, forms.Form):
    note = forms.CharField(max_length=120, required=False, label="For whom")
    role = forms.ChoiceField(choices=Person.Role, initial=Person.Role.MEMBER, required=False)

    def clean_role(self):
        return self.typed.role or Person.Role.MEMBER


class MemberForm(Styled, forms.Form):
    """What an owner changes of an account."""

    role = forms.ChoiceField(choices=Person.Role)
    quota_mb = forms.IntegerField(required=False, min_value=1, max_value=10_000_000, label="Room in MB")


class SureForm(Styled, forms.Form):
    """An account is deleted only by whoever types its name."""

    name = forms.CharField(max_length=150, label="Type the name to delete the account with everything in it")


class NameForm(TypedForm):
    """The name that somebody tried, for the list of what was done."""

    username = forms.CharField(max_length=150, required=False)

    def name(self):
        return self.typed.username if self.is_valid() else ""


class RemovedForm(TypedForm):
    """What was removed on the page before, as the address says it: "result-12"."""

    removed = forms.RegexField(r"^[a-z]+-[0-9]{1,17}$")
