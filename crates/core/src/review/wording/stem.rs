//! Words without the endings of number.

/// A word without the ending that tells one from many.
pub(super) fn stem(word: &str) -> String {
    let without =
        |ending: &str, least: usize| word.strip_suffix(ending).filter(|rest| rest.len() >= least);
    if let Some(rest) = without("ies", 2) {
        return format!("{rest}y");
    }
    if let Some(rest) = ["sses", "shes", "ches", "xes"].iter().find_map(|e| without(e, 2)) {
        return format!("{rest}{}", &word[rest.len()..word.len() - 2]);
    }
    if let Some(rest) = without("es", 3).filter(|rest| rest.len() == 3 && rest.ends_with('s')) {
        return rest.to_owned();
    }
    match without("s", 3) {
        Some(rest) if !rest.ends_with(['s', 'u', 'i']) => rest.to_owned(),
        _ => word.to_owned(),
    }
}
