//! One's own account.

use crate::extract::Form;
use crate::letters::News;
use crate::session::{Client, SignedIn};
use crate::{App, Problem, secrets};
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use zf_core::ids::SessionId;
use zf_core::people::{self, Forms};
use zf_store::people::sessions::PersonSession;
use zf_store::trail::Actor;
use zf_wire::account::{
    AccountView, AddressForm, CodeForm, Credentials, FactorView, FormsForm, PasswordForm,
    PersonName, RecoveryView, SessionView,
};
use zf_wire::values::instant;

fn session_view(session: PersonSession, own: SessionId) -> SessionView {
    SessionView {
        own: session.id == own,
        id: session.id.0,
        begun_at: instant(session.begun_at),
        used_at: instant(session.used_at),
        client: session.client,
        agent: session.agent,
    }
}

/// Shows one's own account.
#[utoipa::path(get, operation_id = "account_show", path = "/api/account",
    responses((status = 200, body = AccountView), (status = 401, body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    SignedIn { person, session }: SignedIn,
) -> Result<Json<AccountView>, Problem> {
    let sessions = app.store.sessions_of(person.id).await?;
    Ok(Json(AccountView {
        recovery_codes: app.store.recovery_codes_left(person.id).await?,
        name: person.name,
        email: person.email,
        dates: person.forms.dates,
        numbers: person.forms.numbers,
        factor_since: person.factor_since.map(instant),
        sessions: sessions.into_iter().map(|one| session_view(one, session)).collect(),
    }))
}

/// Changes one's name.
#[utoipa::path(put, operation_id = "account_rename", path = "/api/account/name", request_body = PersonName,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn rename(
    State(app): State<App>,
    SignedIn { person, .. }: SignedIn,
    Form(form): Form<PersonName>,
) -> Result<StatusCode, Problem> {
    let name = people::name(&form.name).map_err(|e| Problem::field("name", e))?;
    app.store.rename_person(person.id, &name).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Asks to sign in with another address: it is taken once the letter that goes there was answered. The one
/// so far is told.
#[utoipa::path(put, operation_id = "account_change_email", path = "/api/account/email", request_body = AddressForm,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn change_email(
    State(app): State<App>,
    SignedIn { person, .. }: SignedIn,
    client: Client,
    Form(form): Form<AddressForm>,
) -> Result<StatusCode, Problem> {
    let email = people::email(&form.email).map_err(|e| Problem::field("email", e))?;
    let shown = Credentials { password: form.password, code: form.code };
    app.must_know(&person, &client, shown).await?;
    app.send_address_link(&person, &email).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Changes one's password. All other sessions of one's own end.
#[utoipa::path(put, operation_id = "account_change_password", path = "/api/account/password", request_body = PasswordForm,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn change_password(
    State(app): State<App>,
    SignedIn { person, session }: SignedIn,
    client: Client,
    Form(form): Form<PasswordForm>,
) -> Result<StatusCode, Problem> {
    let shown = Credentials { password: form.password, code: form.code };
    app.must_know(&person, &client, shown).await?;
    let own = [person.name.as_str(), person.email.as_str()];
    let hash = app.take_password("new_password", form.new_password, &own).await?;
    let by = Actor::Person(person.id);
    app.store.change_password(by, person.id, &hash, Some(session)).await?;
    app.tell(&person, News::PasswordChanged { by_link_of: None }).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Lays down how one likes dates and numbers written on the screen.
#[utoipa::path(put, operation_id = "account_choose_forms", path = "/api/account/forms", request_body = FormsForm,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn choose_forms(
    State(app): State<App>,
    SignedIn { person, .. }: SignedIn,
    Form(form): Form<FormsForm>,
) -> Result<StatusCode, Problem> {
    let forms = Forms { dates: form.dates, numbers: form.numbers };
    app.store.choose_forms(person.id, forms).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Ends one of one's own sessions.
#[utoipa::path(delete, operation_id = "account_end_session", path = "/api/account/sessions/{session}",
    params(("session" = i64, Path)), responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn end_session(
    State(app): State<App>,
    SignedIn { person, .. }: SignedIn,
    Path(session): Path<SessionId>,
) -> Result<StatusCode, Problem> {
    app.store.end_session(person.id, session).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Ends all of one's own sessions but this one.
#[utoipa::path(delete, operation_id = "account_end_others", path = "/api/account/sessions",
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn end_others(
    State(app): State<App>,
    SignedIn { person, session }: SignedIn,
) -> Result<StatusCode, Problem> {
    app.store.end_other_sessions(person.id, session).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Proposes a second factor, which is not asked for before a code of it was shown.
#[utoipa::path(post, operation_id = "account_add_factor", path = "/api/account/factor", request_body = Credentials,
    responses((status = 200, body = FactorView), (status = "4XX", body = Problem)))]
pub(crate) async fn add_factor(
    State(app): State<App>,
    SignedIn { person, .. }: SignedIn,
    client: Client,
    Form(form): Form<Credentials>,
) -> Result<Json<FactorView>, Problem> {
    app.must_know(&person, &client, form).await?;
    let secret = secrets::factor();
    app.store.propose_factor(person.id, &secret).await?;
    let shown = secrets::show(&secret, &person.email)?;
    Ok(Json(FactorView { secret: shown.letters, drawing: shown.drawing }))
}

/// Asks for the second factor from now on, given a code of it.
#[utoipa::path(put, operation_id = "account_confirm_factor", path = "/api/account/factor", request_body = CodeForm,
    responses((status = 200, body = RecoveryView), (status = "4XX", body = Problem)))]
pub(crate) async fn confirm_factor(
    State(app): State<App>,
    SignedIn { person, .. }: SignedIn,
    Form(form): Form<CodeForm>,
) -> Result<Json<RecoveryView>, Problem> {
    let wrong = || Problem::field("code", "this is not the code that your device shows now");
    let factor = app.store.factor(person.id).await?.filter(|factor| !factor.confirmed);
    let secret = factor.ok_or_else(wrong)?.secret;
    let step = secrets::step_of(&secret, &person.email, &form.code)?.ok_or_else(wrong)?;
    if !app.store.take_step(person.id, step).await? {
        return Err(wrong());
    }
    let codes = secrets::recovery_codes();
    let hashes: Vec<_> = codes.iter().map(|code| code.hash.clone()).collect();
    app.store.confirm_factor(person.id, &hashes).await?;
    let recovery_codes = codes.iter().map(|code| secrets::in_groups(&code.text)).collect();
    Ok(Json(RecoveryView { recovery_codes }))
}

/// Removes one's second factor, given a code of it.
#[utoipa::path(post, operation_id = "account_remove_factor", path = "/api/account/factor/removal", request_body = Credentials,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn remove_factor(
    State(app): State<App>,
    SignedIn { person, .. }: SignedIn,
    client: Client,
    Form(form): Form<Credentials>,
) -> Result<StatusCode, Problem> {
    app.must_know(&person, &client, form).await?;
    app.store.remove_factor(Actor::Person(person.id), person.id).await?;
    app.tell(&person, News::FactorRemoved { by: None }).await?;
    Ok(StatusCode::NO_CONTENT)
}
