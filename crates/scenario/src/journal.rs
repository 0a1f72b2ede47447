//! Six years of entries: takings by the day, invoices and their payment, wages, depreciation.

use crate::row::{Row, RowKind};
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use std::collections::{BTreeMap, HashMap};
use time::{Date, Month};
use zf_sheets::{ColumnKind, Table};

/// First and last month of the journal: year and month.
const FIRST: (i32, u8) = (2021, 2);
const LAST: (i32, u8) = (2026, 10);

/// Statements of the bank are reconciled up to this month.
const RECONCILED: (i32, u8) = (2026, 8);

const BANK: &str = "1010";
const EURO_BANK: &str = "1020";
const CARDS: &str = "1030";
const CREDITORS: &str = "2110";
const WAGES_DUE: &str = "2125";
const PENSIONS_DUE: &str = "2130";
const PAYE_DUE: &str = "2215";
const INPUT_TAX: &str = "1410";
const OUTPUT_TAX: &str = "2210";
const GENERAL_FUND: &str = "3020";

/// Who is dealt with, by what an account's name speaks of; the last entry is for all else.
const PAYEES: &[(&[&str], &[&str])] = &[
    (&["coal"], &["Harrock Colliery Sales", "Dunmore Fuels", "Tarn & Sons Coal"]),
    (&["diesel", "lubric"], &["Penrow Oils", "Valley Fuels"]),
    (
        &["ballast", "sleeper", "track"],
        &["Garrow Quarry", "Lowther Timber Yard", "Ironway Supplies"],
    ),
    (
        &["boiler", "machin", "steel", "cast", "weld", "tool"],
        &["Brackwater Engineering", "Corrie Forge", "Thistle Tools", "Addison Gases"],
    ),
    (
        &["café", "bread", "coffee", "tea", "cream", "buffet", "food"],
        &["Oakhollow Dairy", "Mossdale Bakery", "Fell View Wholesale", "Rowan Coffee Roasters"],
    ),
    (
        &["telephone", "phone", "broadband", "circuit"],
        &["Northfell Telecom", "Linehurst Broadband"],
    ),
    (&["print", "leaflet", "statione"], &["Quill Press", "Marchbank Stationers"]),
    (&["insurance"], &["Wayfarer Mutual", "Heritage Underwriting Pool"]),
    (&["electric", "heating", "gas", "water"], &["Dale Power", "Upper Lark Water"]),
    (&["clean", "laundry"], &["Brightside Cleaning", "Snowdrop Laundry"]),
    (
        &["advert", "website", "software", "computer"],
        &["Beck Digital", "Valley Gazette", "Cairn Systems"],
    ),
    (&["audit", "accountan", "legal"], &["Pell & Osgood", "Farrant Solicitors"]),
    (&["travel", "meal"], &["A. Whitlow", "J. Pascoe", "R. Wetherby", "M. Tunnard", "H. Brook"]),
    (&["coach", "group", "school"], &["Hartwell Coaches", "Silverdale Tours", "St Agnes Primary"]),
    (
        &["donation", "gift", "member", "legac"],
        &["Members and friends", "Estate of E. Farrow", "Round the Fells Club"],
    ),
    (
        &[],
        &[
            "Dunnock Supplies",
            "Larkfell Hardware",
            "Thorne & Daughters",
            "Westmere Trading",
            "Copper Beech Ltd",
        ],
    ),
];

const CONTINENTAL: [&str; 2] = ["Rheinkessel Teile GmbH", "Van der Meulen Spoor BV"];

/// Who an account's entries are with.
pub(crate) fn payees_of(row: &Row) -> &'static [&'static str] {
    let name = row.name.to_lowercase();
    let speaks = |(words, _): &&(&[&str], &[&str])| {
        words.is_empty() || words.iter().any(|w| name.contains(w))
    };
    PAYEES.iter().find(speaks).map_or(&["Sundry"], |(_, payees)| payees)
}

struct Line {
    account: String,
    pence: i64,
    euro_cents: Option<i64>,
    payee: String,
    memo: String,
    department: String,
    site: &'static str,
}

struct Writer {
    rng: ChaCha8Rng,
    next_entry: u32,
    rows: Vec<(Date, Vec<String>)>,
    departments: HashMap<String, String>,
}

/// The journal as a table, by date.
pub(crate) fn table(rows: &[Row], seed: u64) -> Table {
    const COLUMNS: [(&str, ColumnKind); 15] = [
        ("Entry no", ColumnKind::Text),
        ("Date", ColumnKind::Text),
        ("Account code", ColumnKind::Text),
        ("Debit", ColumnKind::Money),
        ("Credit", ColumnKind::Money),
        ("Payee", ColumnKind::Text),
        ("Details", ColumnKind::Text),
        ("Reference", ColumnKind::Text),
        ("Currency", ColumnKind::Text),
        ("Foreign amount", ColumnKind::Money),
        ("Entry kind", ColumnKind::Text),
        ("Department", ColumnKind::Text),
        ("Site", ColumnKind::Text),
        ("Cleared", ColumnKind::Text),
        ("Keyed by", ColumnKind::Text),
    ];
    let accounts: Vec<&Row> = rows.iter().filter(|row| row.kind == RowKind::Account).collect();
    let departments = accounts
        .iter()
        .filter_map(|row| Some((row.code.clone(), row.get("department")?.to_owned())))
        .collect();
    let mut writer = Writer {
        rng: ChaCha8Rng::seed_from_u64(seed),
        next_entry: 1,
        rows: Vec::new(),
        departments,
    };
    writer.opening(&accounts);
    for month in months() {
        writer.month(&accounts, month);
    }
    writer.rows.sort_by_key(|(date, _)| *date);
    crate::table("Journal", &COLUMNS, writer.rows.into_iter().map(|(_, row)| row).collect())
}

fn months() -> impl Iterator<Item = (i32, u8)> {
    let count = |(year, month): (i32, u8)| year * 12 + i32::from(month) - 1;
    (count(FIRST)..=count(LAST)).map(|n| (n.div_euclid(12), n.rem_euclid(12) as u8 + 1))
}

fn date(year: i32, month: u8, day: u8) -> Date {
    let month = Month::try_from(month).unwrap_or(Month::January);
    Date::from_calendar_date(year, month, day.min(month.length(year))).unwrap_or(Date::MIN)
}

/// How busy a month is for a kind of trade.
fn season(row: &Row, month: u8) -> f64 {
    const SUMMER: [f64; 12] = [0.1, 0.4, 0.6, 1.1, 1.3, 1.5, 1.8, 2.0, 1.3, 1.0, 0.3, 0.5];
    const WINTER: [f64; 12] = [0.3, 0.2, 0.2, 0.2, 0.2, 0.2, 0.3, 0.5, 1.1, 2.2, 3.0, 3.4];
    const SPRING: [f64; 12] = [1.2, 2.2, 2.6, 2.0, 1.2, 0.6, 0.5, 0.4, 0.4, 0.4, 0.3, 0.3];
    let at = usize::from(month - 1);
    match row.get("season") {
        Some("summer") => SUMMER[at],
        Some("winter") => WINTER[at],
        Some("spring") => SPRING[at],
        _ => 1.0,
    }
}

/// The account that carries the cost of what is taken from a stock.
fn used_as(stock: &str) -> &'static str {
    match stock {
        "1220" => "5010",
        "1225" => "5210",
        "1226" => "5215",
        "1230" | "1235" => "5135",
        "1240" => "5031",
        _ => "5240",
    }
}

fn is_open(row: &Row, (year, month): (i32, u8)) -> bool {
    let now = format!("{year}-{month:02}");
    row.get("from").is_none_or(|from| from <= now.as_str())
        && row.get("to").is_none_or(|to| now.as_str() <= to)
}

/// The days trains run: weekends in winter, most days in summer, none in January.
fn runs(date: Date) -> bool {
    let weekend = matches!(date.weekday(), time::Weekday::Saturday | time::Weekday::Sunday);
    match u8::from(date.month()) {
        1 => false,
        4..=9 => !matches!(date.weekday(), time::Weekday::Monday | time::Weekday::Friday),
        12 => date.day() < 25,
        _ => weekend,
    }
}

impl Writer {
    /// About the usual amount, in pence: seldom round, sometimes much more.
    fn around(&mut self, pounds: f64) -> i64 {
        let spread: f64 = self.rng.random_range(0.45..1.4) * self.rng.random_range(0.8..1.25);
        let growth = 1.0 + 0.04 * f64::from(self.next_entry) / 30_000.0;
        ((pounds * spread * growth * 100.0) as i64).max(50)
    }

    fn count(&mut self, expected: f64) -> u32 {
        let whole = expected.floor();
        whole as u32 + u32::from(self.rng.random_bool((expected - whole).clamp(0.0, 1.0)))
    }

    fn line(&self, account: &str, pence: i64, payee: &str, memo: &str) -> Line {
        let department = self.departments.get(account).cloned().unwrap_or_default();
        let site = match account.as_bytes() {
            _ if memo.contains("Mossdale") || department.contains("Mossdale") => "Mossdale",
            [b'4', ..] | [b'5', b'2', ..] => "Larkfell",
            _ => "",
        };
        Line {
            account: account.to_owned(),
            pence,
            euro_cents: None,
            payee: payee.to_owned(),
            memo: memo.to_owned(),
            department,
            site,
        }
    }

    fn entry(&mut self, date: Date, reference: &str, kind: &str, lines: Vec<Line>) {
        let number = format!("J{:06}", self.next_entry);
        self.next_entry += 1;
        let keyed = ["HB", "MT", "RW"][self.next_entry as usize % 3];
        let reconciled = (date.year(), u8::from(date.month())) <= RECONCILED;
        for line in lines.into_iter().filter(|line| line.pence != 0) {
            let pounds = |pence: i64| format!("{}.{:02}", pence / 100, pence % 100);
            let signed =
                |cents: i64| format!("{}{}", if cents < 0 { "-" } else { "" }, pounds(cents.abs()));
            let bank = line.account == BANK || line.account == EURO_BANK;
            let row = [
                number.clone(),
                date.to_string(),
                line.account,
                if line.pence > 0 { pounds(line.pence) } else { String::new() },
                if line.pence < 0 { pounds(-line.pence) } else { String::new() },
                line.payee,
                line.memo,
                reference.to_owned(),
                line.euro_cents.map_or(String::new(), |_| "EUR".to_owned()),
                line.euro_cents.map_or(String::new(), signed),
                kind.to_owned(),
                line.department,
                line.site.to_owned(),
                if bank && reconciled { "yes" } else { "" }.to_owned(),
                keyed.to_owned(),
            ];
            self.rows.push((date, row.to_vec()));
        }
    }

    fn opening(&mut self, accounts: &[&Row]) {
        let mut lines = vec![self.line(BANK, 8_421_109, "", "Brought forward")];
        for row in accounts {
            if let Some(Ok(pounds)) = row.get("opening").map(str::parse::<i64>) {
                lines.push(self.line(&row.code, pounds * 100, "", "Brought forward"));
            }
        }
        let sum: i64 = lines.iter().map(|line| line.pence).sum();
        lines.push(self.line(GENERAL_FUND, -sum, "", "Brought forward"));
        self.entry(date(FIRST.0, FIRST.1, 1), "OPEN", "opening", lines);
        let mut euros = self.line(EURO_BANK, 4_000_000, "", "Transfer for parts");
        euros.euro_cents = Some(4_600_000);
        let from = self.line(BANK, -4_000_000, "", "Transfer for parts");
        self.entry(date(FIRST.0, FIRST.1, 2), "TRF", "", vec![euros, from]);
    }

    fn month(&mut self, accounts: &[&Row], (year, month): (i32, u8)) {
        let mut owed: BTreeMap<&'static str, i64> = BTreeMap::new();
        for row in accounts.iter().filter(|row| row.rate > 0.0 && is_open(row, (year, month))) {
            if matches!(row.trade.as_str(), "takings" | "wages" | "pension") {
                continue;
            }
            for _ in 0..self.count(row.rate * season(row, month) * 0.45) {
                let day = date(year, month, self.rng.random_range(1..=31));
                self.trade(row, day, &mut owed);
            }
        }
        self.takings(accounts, (year, month));
        self.wages(accounts, (year, month));
        self.depreciation(accounts, (year, month));
        self.payments(owed, (year, month));
        self.month_end((year, month));
    }

    /// One entry of the kind that an account is used for.
    fn trade(&mut self, row: &Row, day: Date, owed: &mut BTreeMap<&'static str, i64>) {
        let payees = payees_of(row);
        let payee = payees[self.rng.random_range(0..payees.len())];
        let pence = self.around(row.amount);
        let number = self.next_entry;
        let code = row.code.as_str();
        let memo = row.name.trim_start_matches("ZZ ").trim_end_matches(" - do not use");
        match row.trade.as_str() {
            // Every other time something is taken from the shelf instead of being bought.
            "stock" if number.is_multiple_of(2) => {
                let lines = vec![
                    self.line(used_as(code), pence, "", "Taken from stock"),
                    self.line(code, -pence, "", "Taken from stock"),
                ];
                self.entry(day, "STOCK", "", lines);
            }
            "purchase" | "stock" | "capital" | "prepaid" => {
                let tax = match row.get("tax") {
                    Some("zero") => 0,
                    Some("reduced") => pence / 20,
                    _ => pence / 5,
                };
                *owed.entry(payee).or_default() += pence + tax;
                let lines = vec![
                    self.line(code, pence, payee, memo),
                    self.line(INPUT_TAX, tax, payee, memo),
                    self.line(CREDITORS, -pence - tax, payee, memo),
                ];
                self.entry(day, &format!("P{number:05}"), "", lines);
            }
            "euro" => {
                let payee = CONTINENTAL[self.rng.random_range(0..2)];
                let mut bank = self.line(EURO_BANK, -pence, payee, memo);
                bank.euro_cents = Some(-pence * 115 / 100);
                let part = self.line(code, pence, payee, memo);
                self.entry(day, &format!("E{number:05}"), "", vec![part, bank]);
            }
            "sale" => {
                let net = pence * 5 / 6;
                let lines = vec![
                    self.line(BANK, pence, payee, memo),
                    self.line(code, -net, payee, memo),
                    self.line(OUTPUT_TAX, net - pence, payee, memo),
                ];
                self.entry(day, &format!("S{number:05}"), "", lines);
            }
            "gift" | "grant" | "giftaid" | "deposit" | "interest" if !code.starts_with('1') => {
                let lines =
                    vec![self.line(BANK, pence, payee, memo), self.line(code, -pence, payee, memo)];
                self.entry(day, "", "", lines);
            }
            "transfer" => {
                let lines = vec![
                    self.line(GENERAL_FUND, pence, "", memo),
                    self.line(code, -pence, "", memo),
                ];
                self.entry(day, "FUND", "", lines);
            }
            "provision" => {
                let lines =
                    vec![self.line("5110", pence, "", memo), self.line(code, -pence, "", memo)];
                self.entry(day, "PROV", "", lines);
            }
            // Paid out of the bank, or into it, in turn.
            _ => {
                let sign = if number.is_multiple_of(2) { 1 } else { -1 };
                let sign = if matches!(row.trade.as_str(), "charge" | "loan") { 1 } else { sign };
                let lines = vec![
                    self.line(code, sign * pence, payee, memo),
                    self.line(BANK, -sign * pence, payee, memo),
                ];
                self.entry(day, "", "", lines);
            }
        }
    }

    /// One entry a running day and site, with everything that was sold there.
    fn takings(&mut self, accounts: &[&Row], (year, month): (i32, u8)) {
        const SUMMER: [f64; 12] = [0.0, 0.6, 0.7, 1.0, 1.1, 1.2, 1.5, 1.8, 1.1, 0.9, 0.5, 1.6];
        const TILLS: [(&str, &str, &[&str]); 4] = [
            (
                "Larkfell booking office",
                "1040",
                &[
                    "4010", "4013", "4020", "4030", "4032", "4040", "4041", "4045", "4130", "4335",
                    "4510",
                ],
            ),
            ("Mossdale booking office", "1041", &["4011", "4012", "4021", "4022", "4031"]),
            (
                "Larkfell café and shop",
                "1042",
                &["4110", "4115", "4210", "4211", "4220", "4225", "4226"],
            ),
            ("Mossdale café", "1043", &["4215", "4216"]),
        ];
        let days = (1..=Month::try_from(month).map_or(30, |m| m.length(year)))
            .map(|d| date(year, month, d));
        for day in days.filter(|day| runs(*day)) {
            for (place, till, sold) in TILLS {
                let memo = format!("Takings, {place}");
                let mut lines = Vec::new();
                for row in accounts.iter().filter(|row| sold.contains(&row.code.as_str())) {
                    if is_open(row, (year, month)) && self.rng.random_bool(row.rate.min(1.0) * 0.93)
                    {
                        let pence = self.around(row.amount * 1.42 * SUMMER[usize::from(month - 1)]);
                        lines.push(self.line(&row.code, -(pence * 5 / 6), "", &memo));
                    }
                }
                let net: i64 = -lines.iter().map(|line| line.pence).sum::<i64>();
                if net == 0 {
                    continue;
                }
                let gross = net + net / 5;
                let cash = gross * self.rng.random_range(12..30) / 100;
                lines.push(self.line(OUTPUT_TAX, -(net / 5), "", &memo));
                lines.push(self.line(till, cash, "", &memo));
                lines.push(self.line(CARDS, gross - cash, "", &memo));
                self.entry(day, "TILL", "", lines);
                let banked = day.next_day().unwrap_or(day);
                if (banked.year(), u8::from(banked.month())) <= LAST {
                    let lines = vec![
                        self.line(BANK, gross, "", &memo),
                        self.line(till, -cash, "", &memo),
                        self.line(CARDS, cash - gross, "", &memo),
                    ];
                    self.entry(banked, "BANKED", "", lines);
                }
            }
        }
    }

    fn wages(&mut self, accounts: &[&Row], (year, month): (i32, u8)) {
        let pay_day = date(year, month, 26);
        let mut lines = Vec::new();
        let (mut wages, mut pensions) = (0, 0);
        for row in accounts {
            let due = match row.trade.as_str() {
                "wages" => &mut wages,
                "pension" => &mut pensions,
                _ => continue,
            };
            let pence = self.around(row.amount);
            *due += pence;
            lines.push(self.line(&row.code, pence, "", "Wages of the month"));
        }
        let tax = wages / 6;
        lines.push(self.line(WAGES_DUE, tax - wages, "", "Net wages"));
        lines.push(self.line(PAYE_DUE, -tax, "", "Tax and national insurance"));
        lines.push(self.line(PENSIONS_DUE, -pensions, "", "Pension contributions"));
        self.entry(pay_day, "PAY", "", lines);
        let lines = vec![
            self.line(WAGES_DUE, wages - tax, "", "Net wages"),
            self.line(PAYE_DUE, tax, "", "Tax and national insurance"),
            self.line(PENSIONS_DUE, pensions, "", "Pension contributions"),
            self.line(BANK, -wages - pensions, "", "Wages of the month"),
        ];
        self.entry(date(year, month, 28), "PAY", "", lines);
    }

    fn depreciation(&mut self, accounts: &[&Row], (year, month): (i32, u8)) {
        let mut lines = Vec::new();
        let mut charges: BTreeMap<&str, i64> = BTreeMap::new();
        for row in accounts {
            let Some(asset) = row.get("depreciates") else {
                continue;
            };
            let owned = accounts.iter().find(|other| other.code == asset);
            let worth: i64 = owned.and_then(|o| o.get("opening")?.parse().ok()).unwrap_or(0);
            let pence = worth * 100 / 25 / 12;
            let charge = match asset.as_bytes()[1] {
                b'6' | b'7' => "5815",
                b'8' => "5810",
                _ if asset < "1530" => "5810",
                _ => "5820",
            };
            *charges.entry(charge).or_default() += pence;
            lines.push(self.line(&row.code, -pence, "", "Depreciation of the month"));
        }
        for (charge, pence) in charges {
            lines.push(self.line(charge, pence, "", "Depreciation of the month"));
        }
        self.entry(date(year, month, 28), "DEPN", "", lines);
    }

    /// Suppliers are paid at the month's end for what was bought in it.
    fn payments(&mut self, owed: BTreeMap<&'static str, i64>, (year, month): (i32, u8)) {
        for (payee, pence) in owed {
            let lines = vec![
                self.line(CREDITORS, pence, payee, "Payment of invoices"),
                self.line(BANK, -pence, payee, "Payment of invoices"),
            ];
            self.entry(date(year, month, 31), "BACS", "", lines);
        }
    }

    /// The quarter's tax is settled in round figures against the bank.
    fn month_end(&mut self, (year, month): (i32, u8)) {
        if month.is_multiple_of(3) {
            let lines = vec![
                self.line(OUTPUT_TAX, 6_600_000, "Revenue office", "VAT return"),
                self.line(INPUT_TAX, -3_100_000, "Revenue office", "VAT return"),
                self.line(BANK, -3_500_000, "Revenue office", "VAT return"),
            ];
            self.entry(date(year, month, 30), "VAT", "", lines);
        }
    }
}
