//! The sentence that lies on the Bench while the cook is elsewhere: a small cookie of this browser, bound to the cook.

use crate::state::AppState;
use axum::http::{HeaderMap, HeaderName, header};
use axum::response::AppendHeaders;
use rauchkeller_store::CookId;
use uuid::Uuid;

const NAME: &str = "rauchkeller-bench";
/// Longer sentences are not kept; a browser takes 4 KB.
const MOST: usize = 3000;

type Cookie = AppendHeaders<[(HeaderName, String); 1]>;

fn cookie(state: &AppState, value: &str, seconds: u32) -> Cookie {
    let secure = if state.settings.is_secure() { "; Secure" } else { "" };
    AppendHeaders([(header::SET_COOKIE, format!("{NAME}={value}; Path=/bench; Max-Age={seconds}; HttpOnly; SameSite=Lax{secure}"))])
}

/// What lay on the Bench: its address, and the key of the form it was said in.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Left {
    pub address: String,
    pub key: String,
}

/// Leaves the Bench's address lying for three days, with the key of its form: an answer that was still on its way when
/// the piece was kept lays the sentence down again, and by the key it is known as kept.
pub(super) fn keep(state: &AppState, cook: CookId, key: &str, address: &str) -> Cookie {
    match value_of(cook, key, address) {
        Some(value) => cookie(state, &value, 3 * 86_400),
        None => clear(state),
    }
}

/// Nothing lies there any more.
pub(super) fn clear(state: &AppState) -> Cookie {
    cookie(state, "", 0)
}

fn value_of(cook: CookId, key: &str, address: &str) -> Option<String> {
    let query = address.strip_prefix("/bench?").filter(|query| query.len() <= MOST)?;
    Some(format!("{cook}.{key}?{query}"))
}

/// What was left lying by this cook.
pub(super) fn of(headers: &HeaderMap, cook: CookId) -> Option<Left> {
    let cookies = headers.get_all(header::COOKIE).iter().filter_map(|v| v.to_str().ok()).flat_map(|all| all.split(';'));
    let mut cookies = cookies;
    let mine = cookies.find_map(|pair| pair.trim().strip_prefix(NAME)?.strip_prefix('='))?;
    let (whose, query) = mine.split_once('?')?;
    let (who, key) = whose.split_once('.')?;
    // Only what this program writes there: a form-encoded query.
    let plain = |c: char| c.is_ascii_alphanumeric() || "=&%+-._*".contains(c);
    let ours = who == cook.to_string() && Uuid::parse_str(key).is_ok();
    let usable = !query.is_empty() && query.len() <= MOST && query.chars().all(plain);
    (ours && usable).then(|| Left { address: format!("/bench?{query}"), key: key.to_owned() })
}

#[cfg(test)]
mod tests {
    use super::*;
    use axum::http::HeaderValue;

    const KEY: &str = "01900000-0000-7000-8000-000000000000";

    fn cook() -> CookId {
        CookId(Uuid::from_u128(1))
    }

    fn sent(cookies: &[&str]) -> HeaderMap {
        cookies.iter().map(|one| (header::COOKIE, HeaderValue::from_str(one).unwrap())).collect()
    }

    fn sent_back(value: &str) -> Option<Left> {
        of(&sent(&[&format!("first=1; {NAME}={value}; last=2")]), cook())
    }

    #[test]
    fn a_sentence_comes_back_with_the_key_of_its_form() {
        let address = "/bench?cut=pork-belly&weight=2.1+kg&serve=Sunday+19%3A00";
        let left = sent_back(&value_of(cook(), KEY, address).unwrap());
        assert_eq!(left, Some(Left { address: address.into(), key: KEY.into() }));
    }

    #[test]
    fn another_cook_s_sentence_is_not_shown() {
        let theirs = CookId(Uuid::from_u128(2));
        let value = value_of(theirs, KEY, "/bench?weight=2kg").unwrap();
        assert_eq!(sent_back(&value), None);
        assert!(of(&sent(&[&format!("{NAME}={value}")]), theirs).is_some());
    }

    #[test]
    fn what_this_program_never_wrote_is_not_followed() {
        let head = format!("{}.{KEY}", cook());
        for value in [
            String::new(),
            format!("{}?weight=2kg", cook()),
            format!("{}.key?weight=2kg", cook()),
            format!("{head}?"),
            format!("{head}?next=//elsewhere/"),
            format!("{head}?weight=2\"kg"),
            format!("{head}?{}", "a".repeat(MOST + 1)),
        ] {
            assert_eq!(sent_back(&value), None, "{value}");
        }
        assert_eq!(of(&HeaderMap::new(), cook()), None);
    }

    #[test]
    fn an_empty_bench_and_a_sentence_too_long_leave_nothing() {
        assert_eq!(value_of(cook(), KEY, "/bench"), None);
        assert_eq!(value_of(cook(), KEY, &format!("/bench?{}", "a".repeat(MOST + 1))), None);
        assert!(value_of(cook(), KEY, &format!("/bench?{}", "a".repeat(MOST))).is_some());
    }
}
