//! Words without the endings of number.

/// Words that tell one from many otherwise than by an ending.
const IRREGULAR: [(&str, &str); 14] = [
    ("calves", "calf"),
    ("children", "child"),
    ("feet", "foot"),
    ("geese", "goose"),
    ("halves", "half"),
    ("knives", "knife"),
    ("leaves", "leaf"),
    ("loaves", "loaf"),
    ("men", "man"),
    ("people", "person"),
    ("shelves", "shelf"),
    ("teeth", "tooth"),
    ("wives", "wife"),
    ("women", "woman"),
];

/// A word without the ending that tells one from many.
pub(super) fn stem(word: &str) -> String {
    if let Some((_, one)) = IRREGULAR.iter().find(|(many, _)| *many == word) {
        return (*one).to_owned();
    }
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
