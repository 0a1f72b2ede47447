//! The part of the chart that grew by habit: the same accounts again for every department,
//! locomotive, carriage, building, event and appeal, and the branch society's own chart.

use crate::row::Row;

const DEPARTMENTS: [(&str, f64); 13] = [
    ("Operating", 3.0),
    ("Signalling", 1.0),
    ("Permanent way", 1.6),
    ("Carriage and wagon", 1.4),
    ("Locomotive shed", 2.2),
    ("Commercial", 1.2),
    ("Museum", 0.8),
    ("Larkfell café", 1.5),
    ("Mossdale café", 1.2),
    ("Events", 0.7),
    ("Volunteer office", 0.5),
    ("Estates", 0.9),
    ("Head office", 1.8),
];

/// What every department keeps apart: name, trade, entries a month, usual amount.
const DEPARTMENT_COSTS: [(&str, &str, f64, u32); 10] = [
    ("wages", "wages", 1.0, 2900),
    ("pensions", "pension", 1.0, 140),
    ("training", "purchase", 0.5, 160),
    ("uniforms", "purchase", 0.5, 85),
    ("travel", "purchase", 1.4, 42),
    ("telephone", "purchase", 1.0, 28),
    ("printing", "purchase", 0.6, 36),
    ("cleaning", "purchase", 1.6, 54),
    ("small equipment", "purchase", 0.8, 95),
    ("sundries", "purchase", 1.2, 21),
];

const LOCOMOTIVES: [&str; 9] = [
    "Larkfell Lass",
    "Mossdale",
    "Sir Edwin Thrale",
    "Number 7 Bramble",
    "Heron",
    "Colonel Pym",
    "Hazel Queen",
    "Diesel D214",
    "Shunter Toby",
];

const CARRIAGES: [&str; 12] = [
    "Dining car Ambleby",
    "Dining car Corrow",
    "Buffet car 12",
    "Open third 21",
    "Open third 22",
    "Open third 24",
    "Brake third 31",
    "Brake third 33",
    "First class saloon",
    "Observation car",
    "Mail van",
    "Goods brake 5",
];

const BUILDINGS: [&str; 6] = [
    "Larkfell station",
    "Mossdale station",
    "Hazel Bridge halt",
    "Carriage shed",
    "Locomotive shed",
    "Lineside cottage",
];

const BUILDING_COSTS: [(&str, f64, u32); 6] = [
    ("repairs", 1.1, 240),
    ("electricity", 1.0, 310),
    ("water", 0.4, 120),
    ("heating", 0.7, 260),
    ("rates", 0.8, 190),
    ("alarm", 0.3, 65),
];

const EVENTS: [&str; 11] = [
    "Steam gala",
    "Santa trains",
    "Halloween trains",
    "Wartime weekend",
    "Real ale festival",
    "Teddy bears' picnic",
    "Classic bus day",
    "Wedding hire",
    "Murder mystery evening",
    "Easter egg trains",
    "Model railway show",
];

const APPEALS: [&str; 9] = [
    "Boiler appeal",
    "Bridge 14 appeal",
    "Carriage shed appeal",
    "Signal box appeal",
    "Hazel Queen appeal",
    "Footbridge appeal",
    "Museum roof appeal",
    "Young volunteers' fund",
    "Water tower appeal",
];

/// The branch society's accounts: name and the account of the main chart that is the same thing.
const BRANCH: [(&str, &str, f64, u32); 40] = [
    ("Branch coal", "5010", 1.5, 640),
    ("Branch track materials", "5031", 1.0, 410),
    ("Branch signalling repair", "5040", 0.8, 150),
    ("Branch boiler inspection", "5115", 0.3, 380),
    ("Branch steel stock", "5135", 0.6, 140),
    ("Branch timbers", "5155", 0.6, 120),
    ("Branch welding gases", "5150", 0.5, 90),
    ("Branch white metal castings", "5140", 0.2, 420),
    ("Branch upholstery", "5160", 0.2, 210),
    ("Branch hired plant", "5125", 0.4, 220),
    ("Branch bread and cake", "5220", 1.5, 41),
    ("Branch packaging", "5250", 0.6, 30),
    ("Branch shop goods for resale", "5240", 0.8, 150),
    ("Branch ice cream", "5235", 0.8, 80),
    ("Branch crockery", "5230", 0.2, 60),
    ("Branch telephone", "6410", 1.0, 45),
    ("Branch postage", "6420", 0.8, 16),
    ("Branch stationery", "6430", 0.6, 22),
    ("Branch software", "6435", 0.5, 35),
    ("Branch computer support", "6440", 0.3, 70),
    ("Branch audit", "6445", 0.1, 600),
    ("Branch legal advice", "6450", 0.1, 340),
    ("Branch bank charges", "6455", 1.0, 12),
    ("Branch public liability insurance", "6460", 0.2, 520),
    ("Branch rolling stock insurance", "6465", 0.2, 430),
    ("Branch advertising", "6470", 0.8, 95),
    ("Branch website hosting", "6475", 0.5, 24),
    ("Branch recruitment", "6480", 0.1, 80),
    ("Branch trade body subscriptions", "6485", 0.1, 90),
    ("Branch volunteers' travel", "6510", 1.2, 18),
    ("Branch volunteers' meals", "6515", 0.8, 14),
    ("Branch staff travel", "6530", 0.4, 33),
    ("Branch conferences", "6535", 0.1, 120),
    ("Branch loan interest", "7810", 0.5, 90),
    ("Branch diesel", "5020", 0.8, 130),
    ("Branch ballast", "5032", 0.3, 360),
    ("Branch sleepers", "5034", 0.3, 420),
    ("Branch small tool purchases", "5120", 0.8, 35),
    ("Branch paint", "5145", 0.6, 40),
    ("Branch water treatment", "5025", 0.3, 110),
];

/// The rows that are written out by rule.
pub(crate) fn rows() -> Vec<Row> {
    let mut rows = Vec::new();
    departments(&mut rows);
    locomotives(&mut rows);
    buildings(&mut rows);
    events(&mut rows);
    appeals(&mut rows);
    branch(&mut rows);
    rows
}

fn departments(rows: &mut Vec<Row>) {
    for (n, (department, size)) in (0..).zip(DEPARTMENTS) {
        let base = 6000 + if n < 4 { n * 100 } else { 200 + n * 100 };
        rows.push(Row::heading(base, &format!("{department} department"), "expense", "staff"));
        for (k, (cost, trade, rate, amount)) in (1..).zip(DEPARTMENT_COSTS) {
            let name = format!("{department} {cost}");
            let rate = if trade == "purchase" { rate * size } else { rate };
            let amount =
                if trade == "wages" { f64::from(amount) * size } else { f64::from(amount) };
            let mut row = Row::account(base + k * 7, &name, trade, rate, amount);
            row.flag("department", department);
            if trade == "purchase" {
                row.flag("section", "other_expense");
            }
            rows.push(row);
        }
        let sum = format!("{department} department, in all");
        rows.push(Row::sum(base + 99, &sum, &format!("{base} to {}", base + 98)));
    }
}

fn locomotives(rows: &mut Vec<Row>) {
    rows.push(Row::heading(1600, "Locomotives", "asset", "property"));
    rows.push(Row::heading(1700, "Carriages and wagons", "asset", "property"));
    rows.push(Row::heading(5400, "Locomotive repairs", "expense", "cost_of_sales"));
    rows.push(Row::heading(5500, "Carriage and wagon repairs", "expense", "cost_of_sales"));
    let fleets =
        [(&LOCOMOTIVES[..], 1600, 5400, 118_000, 2.2), (&CARRIAGES[..], 1700, 5500, 26_000, 1.1)];
    for (names, asset, repair, worth, rate) in fleets {
        for (n, name) in (1..).zip(names) {
            let cost = asset + n * 6;
            let mut owned = Row::account(cost, name, "misc", 0.0, 0.0);
            owned.flag("opening", &(worth - n * worth / 20).to_string());
            rows.push(owned);
            let worn = format!("{name}, depreciation to date");
            let mut worn = Row::account(cost + 1, &worn, "none", 0.0, 0.0);
            worn.flag("contra", "");
            worn.flag("unlike", &cost.to_string());
            worn.flag("depreciates", &cost.to_string());
            rows.push(worn);
            let mut repairs =
                Row::account(repair + n * 5, &format!("Repairs, {name}"), "purchase", rate, 260.0);
            if n == 4 {
                repairs.flag("quiet", "");
                repairs.flag("to", "2023-08");
            }
            rows.push(repairs);
        }
    }
}

fn buildings(rows: &mut Vec<Row>) {
    rows.push(Row::heading(1800, "Buildings", "asset", "property"));
    rows.push(Row::heading(5600, "Buildings, running costs", "expense", "other_expense"));
    for (n, building) in (0..).zip(BUILDINGS) {
        let cost = 1805 + n * 10;
        let mut owned = Row::account(cost, building, "capital", 0.15, 2600.0);
        owned.flag("opening", &(140_000 - n * 17_000).to_string());
        rows.push(owned);
        let mut worn =
            Row::account(cost + 1, &format!("{building}, depreciation to date"), "none", 0.0, 0.0);
        worn.flag("contra", "");
        worn.flag("unlike", &cost.to_string());
        worn.flag("depreciates", &cost.to_string());
        rows.push(worn);
        for (k, (what, rate, amount)) in (1..).zip(BUILDING_COSTS) {
            let code = 5600 + n * 30 + k * 4;
            rows.push(Row::account(
                code,
                &format!("{building} {what}"),
                "purchase",
                rate,
                amount.into(),
            ));
        }
    }
}

fn events(rows: &mut Vec<Row>) {
    rows.push(Row::heading(4400, "Events", "income", "revenue"));
    rows.push(Row::heading(5900, "Events, costs", "expense", "cost_of_sales"));
    for (n, event) in (0..).zip(EVENTS) {
        let season = if n == 1 || n == 2 { "winter" } else { "summer" };
        let income = 4402 + n * 8;
        let costs = 5902 + n * 8;
        for (code, name, trade, rate, amount) in [
            (income, event.to_owned(), "sale", 2.2, 380.0),
            (costs, format!("{event} costs"), "purchase", 1.2, 190.0),
        ] {
            let mut row = Row::account(code, &name, trade, rate, amount);
            row.flag("season", season);
            rows.push(row);
            // The habit of an account for each year, until somebody put an end to it.
            if n < 5 {
                for (k, year) in (1..).zip(2021..=2024) {
                    let mut row =
                        Row::account(code + k, &format!("{name} {year}"), trade, 4.0, amount);
                    row.flag("season", season);
                    row.flag("from", &format!("{year}-02"));
                    row.flag("to", &format!("{year}-12"));
                    row.flag("same", &code.to_string());
                    rows.push(row);
                }
            }
        }
    }
}

fn appeals(rows: &mut Vec<Row>) {
    rows.push(Row::heading(3200, "Appeal funds", "equity", "capital"));
    rows.push(Row::heading(4600, "Appeals", "income", "other_income"));
    for (n, appeal) in (1..).zip(APPEALS) {
        let fund = format!("{appeal}, fund");
        let mut row = Row::account(3200 + n * 5, &fund, "transfer", 0.3, 600.0);
        let gifts = Row::account(4600 + n * 5, &format!("{appeal} gifts"), "gift", 2.0, 75.0);
        if n == 9 {
            row.flag("never", "");
            row.rate = 0.0;
        }
        rows.extend([row, gifts]);
    }
}

fn branch(rows: &mut Vec<Row>) {
    rows.push(Row::heading(
        8000,
        "Mossdale branch society (to be merged)",
        "expense",
        "other_expense",
    ));
    for (n, (name, same, rate, amount)) in (1..).zip(BRANCH) {
        let mut row = Row::account(8000 + n * 5, name, "purchase", rate, amount.into());
        row.flag("same", same);
        row.flag("to", "2023-03");
        if n % 8 == 0 {
            row.name = format!("ZZ {name} - do not use");
            row.flag("old", "");
        }
        rows.push(row);
    }
    rows.push(Row::sum(8399, "Branch society, in all", "8000 to 8398"));
}
