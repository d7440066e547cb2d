"""Signing in and out, one's own account, and the house: who is in it, invitations, what was done."""

from django.conf import settings
from django.contrib.auth import login, logout
from django.contrib.auth import views as auth
from django.contrib.auth.decorators import login_not_required
from django.http import Http404, JsonResponse
from django.middleware.csrf import get_token
from django.shortcuts import redirect, render
from django.urls import reverse, reverse_lazy
from django.utils.decorators import method_decorator
from django.views.decorators.cache import never_cache
from django.views.decorators.debug import sensitive_post_parameters
from django.views.decorators.http import require_POST

from dimgrey.core.errors import CoreError
from dimgrey.people import accounts, forms, pairing
from dimgrey.people.events import done_to, recent, tell
from dimgrey.people.interrupted import carried
from dimgrey.people.models import Invitation, Person
from dimgrey.people.owned import owners_alone
from dimgrey.people.pairing import BACKEND
from dimgrey.people.quota import most_of, used_by, used_by_all

LOCKED = "Too many tries. Wait a quarter of an hour, then try again, or ask for a new password."


@method_decorator([sensitive_post_parameters(), login_not_required, never_cache], name="dispatch")
class SignIn(auth.LoginView):
    """The sign-in page. A script that asks gets its answer as JSON; a form that was carried along is sent on."""

    template_name = "people/sign_in.html"
    form_class = forms.SignInForm

    def form_valid(self, form):
        login(self.request, form.get_user())
        pairing.note_sign_in(self.request, form.get_user())
        if "HX-Request" in self.request.headers:
            return JsonResponse({"token": get_token(self.request)})
        told = carried(form.typed.carried)
        if told:
            address, fields = told
            return render(self.request, "people/go_on.html", {"address": address, "fields": fields})
        return redirect(self.get_success_url())

    def form_invalid(self, form):
        if "HX-Request" in self.request.headers:
            return JsonResponse(
                {
                    "problem": form.errors.as_data()["__all__"][0].messages[0]
                    if "__all__" in form.errors
                    else "Type name and password."
                },
                status=422,
            )
        context = {
            "form": form,
            "next": form.data.get("next", ""),
            "carried": form.data.get("carried", ""),
            "problem": True,
        }
        return render(self.request, self.template_name, {**context, "by_mail": bool(settings.DIMGREY_MAIL)}, status=422)

    def get_context_data(self, **kwargs):
        return {**super().get_context_data(**kwargs), "by_mail": bool(settings.DIMGREY_MAIL)}


def locked(request, credentials, *args, **kwargs):
    """What somebody sees who failed too often."""
    tell("locked out", None, forms.NameForm(request.POST).name(), request)
    if "HX-Request" in request.headers:
        return JsonResponse({"problem": LOCKED}, status=429)
    return render(request, "people/sign_in.html", {"locked": LOCKED}, status=429)


@require_POST
def sign_out(request):
    """Sign out, and end this way in."""
    key = request.session.session_key
    person = request.user
    for device in pairing.ways_in_of(person).filter(session_key=key):
        pairing.drop(person, device.pk)
    logout(request)
    return redirect("sign-in")


@login_not_required
def join(request, secret):
    """Make an account of an invitation."""
    invitation = accounts.invitation_of(secret)
    if invitation is None:
        return render(request, "people/join.html", {"gone": accounts.GONE}, status=404)
    form = forms.JoinForm(request.POST if request.method == "POST" else None)
    if form.is_valid():
        typed = form.typed
        try:
            person = accounts.join(secret, typed.name, typed.password, request, typed.email)
            login(request, person, BACKEND)
            pairing.note_sign_in(request, person)
            return redirect("home")
        except CoreError as refused:
            form.add_error("name", str(refused))
    status = 422 if form.errors else 200
    return render(request, "people/join.html", {"form": form, "invitation": invitation}, status=status)


# --- passwords -----------------------------------------------------------------------------------------------------------------


@method_decorator(login_not_required, name="dispatch")
class Forgotten(auth.PasswordResetView):
    """A new password by mail, where the house has mail; else by a link that an owner gives."""

    template_name = "people/forgotten.html"
    form_class = forms.ForgottenForm
    email_template_name = "people/forgotten_mail.txt"
    subject_template_name = "people/forgotten_subject.txt"
    success_url = reverse_lazy("forgotten-sent")
    extra_email_context = None

    def get_context_data(self, **kwargs):
        return {**super().get_context_data(**kwargs), "by_mail": bool(settings.DIMGREY_MAIL)}

    def form_valid(self, form):
        if not settings.DIMGREY_MAIL:
            raise Http404("This house sends no mail.")
        return super().form_valid(form)


@login_not_required
def forgotten_sent(request):
    return render(request, "people/forgotten.html", {"sent": True})


@method_decorator(login_not_required, name="dispatch")
class NewPassword(auth.PasswordResetConfirmView):
    """What a link leads to: a new password."""

    template_name = "people/new_password.html"
    form_class = forms.NewPasswordForm
    success_url = reverse_lazy("sign-in")

    def form_valid(self, form):
        answer = super().form_valid(form)
        pairing.drop_all(self.user)
        tell("set a new password by a link", self.user, request=self.request)
        return answer


class ChangePassword(auth.PasswordChangeView):
    """Another password; every other sign-in ends."""

    template_name = "people/change_password.html"
    form_class = forms.ChangePasswordForm
    success_url = reverse_lazy("account")

    def form_valid(self, form):
        before = self.request.session.session_key
        answer = super().form_valid(form)
        self.request.session.save()
        pairing.ways_in_of(self.request.user).filter(session_key=before).update(
            session_key=self.request.session.session_key
        )
        accounts.end_others(self.request.user, self.request.session.session_key, self.request)
        tell("changed the password", self.request.user, request=self.request)
        return answer


# --- one's own account ---------------------------------------------------------------------------------------------------------


def account(request, problem="", status=200):
    """One's own account: room, ways in, password, everything as an archive, deletion."""
    context = {
        "used": used_by(request.user),
        "most": most_of(request.user),
        "ways": pairing.ways_in_of(request.user),
        "here": request.session.session_key,
        "done_to": done_to(request.user),
        "sure": forms.SureForm(),
        "problem": problem,
        "page": "account",
    }
    return render(request, "people/account.html", context, status=status)


@require_POST
def end_way_in(request, pk):
    """End one way in of one's own."""
    if pairing.drop(request.user, pk):
        tell("ended a sign-in", request.user, request=request)
    return redirect("account")


@require_POST
def delete_account(request):
    """Delete one's own account with everything in it."""
    form, person = forms.SureForm(request.POST), request.user
    if not form.is_valid() or form.typed.name != person.username:
        return account(request, "Nothing was deleted: that is not the name of this account.", 422)
    if settings.DIMGREY_LOCAL and person.username == "local":
        return account(request, "On one's own machine the data folder is the account: delete that.", 422)
    try:
        accounts.delete(Person.objects.get(pk=person.pk), person, request)
    except CoreError as refused:
        return account(request, str(refused), 422)
    request.session.flush()
    return redirect("sign-in")


# --- the house -----------------------------------------------------------------------------------------------------------------


@owners_alone
def house(request, problem="", link="", status=200, sent_to=""):
    """Who is in the house, with room and last use; open invitations; what was done. link: shown once. sent_to: whom one was mailed to."""
    used = used_by_all()
    members = [
        {
            "person": each,
            "used": used.get(each.pk, 0),
            "form": forms.MemberForm(initial={"role": each.role, "quota_mb": each.quota_mb}, auto_id=f"m{each.pk}-%s"),
        }
        for each in Person.objects.order_by("username")
    ]
    context = {
        "members": members,
        "invitations": Invitation.objects.select_related("owner").order_by("until"),
        "invite": forms.InviteForm(),
        "events": recent(),
        "whole": sum(used.values()),
        "problem": problem,
        "link": link,
        "sent_to": sent_to,
        "page": "house",
    }
    return render(request, "people/house.html", context, status=status)


@require_POST
@owners_alone
def invite(request):
    """An invitation, whose link is shown once."""
    form = forms.InviteForm(request.POST)
    if not form.is_valid():
        return house(request, form.sentence(), status=422)
    try:
        secret = accounts.invite(request.user, form.typed.note, form.typed.role, request)
    except CoreError as refused:
        return house(request, str(refused), status=422)
    return house(request, link=request.build_absolute_uri(reverse("join", args=[secret])))


@require_POST
@owners_alone
def withdraw(request, pk):
    accounts.withdraw(pk, request.user, request)
    return redirect("house")


@require_POST
@owners_alone
def member(request, pk, act):
    """Change, suspend, resume or delete an account, or make a link for a new password."""
    person = Person.objects.filter(pk=pk).first()
    if person is None:
        raise Http404("There is nobody of that number.")
    try:
        if act == "link":
            tell("made a password link", request.user, person, request)
            link = request.build_absolute_uri(accounts.password_path(person))
            sent = accounts.mail_link(person, link, request.user)
            return house(request, link="" if sent else link, sent_to=person.email if sent else "")
        _done(request, person, act)
    except CoreError as refused:
        return house(request, str(refused), status=422)
    return redirect("house")


def _done(request, person, act):
    if act in ("suspend", "resume"):
        accounts.set_active(person, act == "resume", request.user, request)
    elif act == "change":
        form = forms.MemberForm(request.POST)
        if not form.is_valid():
            raise CoreError(form.sentence())
        accounts.change(person, request.user, form.typed.role, form.typed.quota_mb, request)
    else:
        form = forms.SureForm(request.POST)
        if not form.is_valid() or form.typed.name != person.username:
            raise CoreError(f"Nothing was deleted: type {person.username} to delete this account.")
        accounts.delete(person, request.user, request)
