//! Every route of the server, in one place.

use crate::arrive::{Arriving, LARGEST, arrive};
use crate::error::Says;
use crate::place::{ByPlace, find_place};
use crate::state::AppState;
use crate::to_its_end::{House, to_its_end};
use crate::{
    api, api_run, assets, auth, bench, book, cellar, chill, error, household, kit, knife, live, piece, refrigerator, salt, shell, told,
};
use axum::Router;
use axum::extract::{DefaultBodyLimit, Request, State};
use axum::http::{HeaderName, HeaderValue, StatusCode, header};
use axum::middleware::Next;
use axum::response::Response;
use axum::routing::{get, post};
use tower_governor::GovernorLayer;
use tower_governor::governor::GovernorConfigBuilder;
use tower_http::catch_panic::CatchPanicLayer;
use tower_http::compression::CompressionLayer;
use tower_http::csrf::CsrfLayer;
use tower_http::set_header::SetResponseHeaderLayer;
use tower_http::trace::TraceLayer;

/// Scripts and styles only from here, none inline.
const CONTENT_SECURITY_POLICY: &str = "default-src 'self'; script-src 'self'; style-src 'self'; img-src 'self' data:; \
    object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

/// What belongs to one piece.
fn of_a_piece() -> Router<AppState> {
    Router::new()
        .route("/pieces/{piece}", get(piece::page))
        .route("/pieces/{piece}/steps/{step}/done", post(piece::done))
        .route("/pieces/{piece}/steps/{step}/undone", post(piece::undone))
        .route("/pieces/{piece}/plan", post(bench::change))
        .route("/pieces/{piece}/plan/back", post(piece::take_change_back))
        .route("/pieces/{piece}/plan/anew", post(piece::plan_anew))
        .route("/pieces/{piece}/asked", post(piece::answer_asked))
        .route("/pieces/{piece}/hands", get(piece::hands))
        .route("/pieces/{piece}/verdict", get(piece::verdict).post(piece::give_verdict))
        .route("/pieces/{piece}/name", post(piece::call))
        .route("/pieces/{piece}/remove", post(piece::remove))
        .route("/pieces/{piece}/restore", post(piece::restore))
        .route("/pieces/{piece}/renew", post(piece::renew))
        .route("/pieces/{piece}/record.json", get(piece::record))
        .route("/pieces/{piece}/knife", get(knife::page).post(knife::keep))
        .route("/pieces/{piece}/knife.pdf", get(knife::sheet_pdf))
        .route("/pieces/{piece}/knife-strips.pdf", get(knife::strips_pdf))
        .route("/pieces/{piece}/knife/tools", post(knife::add_tool))
        .route("/pieces/{piece}/knife/begin", post(knife::begin))
        .route("/pieces/{piece}/knife/hold", post(knife::hold))
        .route("/pieces/{piece}/knife/go-on", post(knife::go_on))
        .route("/pieces/{piece}/knife/missing", post(knife::missing))
        .route("/pieces/{piece}/knife/slipped", post(knife::slipped))
        .route("/pieces/{piece}/knife/back", post(knife::send_back))
        .route("/pieces/{piece}/knife.svg", get(knife::sheet))
        .route("/pieces/{piece}/salt", get(salt::page))
        .route("/pieces/{piece}/salt/scale", get(salt::scale))
        .route("/pieces/{piece}/salt/by-eye", post(salt::note))
        .route("/pieces/{piece}/bowls/{bowl}/tare", post(salt::tare))
        .route("/pieces/{piece}/bowls/{bowl}/weighed", post(salt::weighed))
        .route("/pieces/{piece}/bowls/{bowl}/again", post(salt::again))
        .route("/pieces/{piece}/bowls/{bowl}/used", post(salt::use_up))
        .route("/pieces/{piece}/bowls/{bowl}/unused", post(salt::unuse))
        .route("/pieces/{piece}/chill", get(chill::page))
        .route("/pieces/{piece}/chill/weighed", post(chill::weigh_in))
        .route("/pieces/{piece}/chill/weighed/{weighed}/answer", post(chill::answer))
        .route("/pieces/{piece}/chill/felt", post(chill::touch))
        .route("/pieces/{piece}/chill/salt", post(chill::change))
        .route("/pieces/{piece}/chill/air", post(chill::set_air))
        .route("/pieces/{piece}/chill/{kind}/{note}/delete", post(chill::delete))
        .route("/pieces/{piece}/chill/{kind}/{note}/restore", post(chill::restore))
        // By session or by token: the handlers look for either.
        .route("/api/v1/pieces/{piece}/standing", get(api_run::standing))
        .route("/api/v1/pieces/{piece}/events", post(api_run::events))
}

/// The whole server. Stations are only for cooks who are signed in: the extractor `SignedIn` in a handler is the authorisation.
pub fn router(state: AppState) -> Router {
    let stations = Router::new()
        .route("/", get(shell::home))
        .route("/bench", get(bench::page))
        .route("/bench/ways", get(bench::ways))
        .route("/cellar", get(cellar::page))
        .route("/cellar/all", get(cellar::all))
        .route("/book", get(book::page))
        .route("/pieces", post(bench::keep))
        .route("/knife", get(knife::next))
        .route("/salt", get(salt::next))
        .route("/chill", get(chill::next))
        .route("/refrigerator", get(refrigerator::page))
        .route("/refrigerator/since", post(refrigerator::since))
        .route("/refrigerator/air", post(refrigerator::set_air))
        .route("/refrigerator/stood-open", post(refrigerator::stood_open))
        .route("/refrigerator/{spell}/delete", post(refrigerator::delete))
        .route("/refrigerator/{spell}/restore", post(refrigerator::restore))
        .route("/scale", get(live::shows))
        .route("/told", get(told::told))
        .route("/household", get(household::page).post(household::set_kitchen))
        .route("/household/units", post(household::set_units))
        .route("/household/invitations", post(household::invite))
        .route("/household/invitations/{invitation}/take-back", post(household::take_back))
        .route("/taken-out", get(household::taken_out))
        .route("/kit", get(kit::page))
        .route("/kit/salts/new", get(kit::salt_page))
        .route("/kit/salts", post(kit::add_salt))
        .route("/kit/mixes/new", get(kit::mix_page))
        .route("/kit/mixes", post(kit::add_mix))
        .route("/kit/ways/new", get(kit::copy_way))
        .route("/kit/ways/draft", post(kit::change_way))
        .route("/kit/ways/take-in", get(kit::take_in_page).post(kit::take_in))
        .route("/kit/ways", post(kit::add_way))
        .route("/kit/ways/{id}", get(kit::way_page).post(kit::keep_way))
        .route("/kit/ways/{id}/way.json", get(kit::give_out))
        .route("/kit/heat", post(kit::set_heat))
        .route("/kit/scales", post(kit::add_scale))
        .route("/kit/scales/pair", post(kit::pair_scale))
        .route("/kit/programs", post(api_run::add_program))
        .route("/kit/{kind}/{id}/remove", post(kit::remove))
        .route("/kit/{kind}/{id}/restore", post(kit::restore));
    let door = Router::new()
        .route("/sign-in", get(auth::sign_in_page).post(auth::sign_in))
        .route("/sign-up", get(auth::sign_up_page).post(auth::sign_up))
        .route("/join/{token}", get(household::join_page).post(household::join))
        .route("/sign-out", post(auth::sign_out))
        .route("/account", get(auth::account))
        .route("/account/password", post(auth::change_password))
        .route("/account/end-others", post(auth::end_others))
        .route("/demo", post(auth::enter_demo));
    let pages = auth::with_sessions(stations.merge(of_a_piece()).merge(door).fallback(shell::not_found), &state);
    // No session here: these answer while the database is away.
    let open = Router::new()
        .route("/api/v1/plan", post(api::plan))
        .route("/api/v1/readings", post(api::readings))
        .route("/api/v1/pairings", post(api::pairings))
        .route("/api/v1/list/{what}", get(api::list))
        .route("/api/v1/openapi.json", get(api::openapi_json))
        .route("/health", get(api::health))
        .route("/assets/{*path}", get(assets::asset));
    let secured = |name, value| SetResponseHeaderLayer::overriding(name, HeaderValue::from_static(value));
    let routes = open
        .merge(pages)
        .layer(DefaultBodyLimit::max(LARGEST))
        .layer(axum::middleware::from_fn_with_state(Door::new(&state), let_in))
        .layer(csrf(&state));
    let routes = flood_guarded(routes, &state)
        // Around all layers that refuse in bare words; a panic outside it stays a plain 500.
        .layer(axum::middleware::from_fn_with_state(state.clone(), say_it_in_words))
        .layer(CatchPanicLayer::new())
        .layer(secured(header::CONTENT_SECURITY_POLICY, CONTENT_SECURITY_POLICY))
        .layer(secured(header::X_CONTENT_TYPE_OPTIONS, "nosniff"))
        .layer(secured(header::REFERRER_POLICY, "same-origin"))
        .layer(secured(HeaderName::from_static("cross-origin-opener-policy"), "same-origin"));
    // Only where browsers reach it by TLS may they be told to use nothing else.
    let routes =
        if state.settings.is_secure() { routes.layer(secured(header::STRICT_TRANSPORT_SECURITY, "max-age=31536000")) } else { routes };
    routes.layer(CompressionLayer::new()).layer(TraceLayer::new_for_http()).with_state(state)
}

/// What stands between those who send and those who work.
#[derive(Clone)]
struct Door {
    arriving: Arriving,
    house: House,
}

impl Door {
    fn new(state: &AppState) -> Self {
        Self { arriving: Arriving::default(), house: House::new(state.heart.clone()) }
    }
}

/// From here inwards everything is here that was sent, and has a place at work.
async fn let_in(State(door): State<Door>, request: Request, next: Next) -> Response {
    match arrive(&door.arriving, request).await {
        Ok(request) => to_its_end(&door.house, request, next).await,
        Err(refused) => refused,
    }
}

/// A guard against floods from one address, before any work is done; sign-in has its own brake, in the database.
fn flood_guarded(routes: Router<AppState>, state: &AppState) -> Router<AppState> {
    let Some(a_second) = state.settings.flood_limit else { return routes };
    let each = 1_000_000_000 / u64::from(a_second.max(1));
    match GovernorConfigBuilder::default().key_extractor(ByPlace).per_nanosecond(each).burst_size(a_second.max(1) * 5).finish() {
        Some(config) => routes.layer(GovernorLayer::new(config)),
        None => routes,
    }
}

/// Cross-site posts are refused by what the browser says of them (`Sec-Fetch-Site`, `Origin`).
fn csrf(state: &AppState) -> CsrfLayer {
    let layer = CsrfLayer::new();
    match &state.settings.public_url {
        Some(origin) => layer.add_trusted_origin(origin.trim_end_matches('/')).unwrap_or_default(),
        None => layer,
    }
}

/// Bare refusals of the layers and extractors below become pages in words, or problems for a program; what handlers rendered passes.
/// All of them count by where a request comes from, which is found out here.
async fn say_it_in_words(State(state): State<AppState>, mut request: Request, next: Next) -> Response {
    find_place(&mut request, &state.settings.proxies);
    let says = Says::to(request.uri().path());
    // Of two hosts nobody knows which was meant (RFC 9112, 3.2).
    if request.headers().get_all(header::HOST).iter().count() > 1 {
        return error::in_words(StatusCode::BAD_REQUEST, None, says);
    }
    let asset = request.uri().path().starts_with("/assets/");
    let response = next.run(request).await;
    let status = response.status();
    let bare = response.headers().get(header::CONTENT_TYPE).is_none_or(|kind| kind.as_bytes().starts_with(b"text/plain"));
    if !bare || asset || !(status.is_client_error() || status.is_server_error()) || response.headers().contains_key("HX-Redirect") {
        return response;
    }
    // The session layer answers a missing database with a bare 500: that is the database being away.
    let status = if status == StatusCode::INTERNAL_SERVER_ERROR { StatusCode::SERVICE_UNAVAILABLE } else { status };
    // Extractors say a form they cannot read as 422, the API's own word for problems; a page's address is just unreadable.
    error::in_words(status, None, says)
}
