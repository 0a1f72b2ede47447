//! Audit files: the Standard Audit File of the OECD and the French file of accounting entries, as
//! sheets of accounts and of journal lines.

use proptest::prelude::*;
use zf_intake::Sheet;
use zf_sheets::{
    AuditAccount, AuditEntry, AuditHeader, AuditLine, AuditWriter, CannotRead, How, Opened, read,
};

fn opened(name: &str, content: &str) -> Result<Opened, CannotRead> {
    read(name, content.as_bytes(), &How::default())
}

/// The rows of a sheet, with what stands in them between bars.
fn said(sheet: &Sheet) -> Vec<String> {
    let row = |cells: &[zf_intake::Cell]| {
        let texts: Vec<&str> = cells.iter().map(|cell| cell.text.as_str()).collect();
        texts.join("|")
    };
    sheet.rows.walk().skip(1).map(|r| format!("{} {}", r.number, row(&r.cells))).collect()
}

const SAFT: &str = r#"<?xml version="1.0" encoding="UTF-8"?>
<n1:AuditFile xmlns:n1="urn:OECD:StandardAuditFile-Taxation/2.00">
  <n1:Header><n1:DefaultCurrencyCode>GBP</n1:DefaultCurrencyCode></n1:Header>
  <n1:MasterFiles>
    <n1:GeneralLedgerAccounts>
      <n1:Account><n1:AccountID>1010</n1:AccountID>
        <n1:AccountDescription>Bank &amp; till &#8211; Mossdale</n1:AccountDescription>
        <n1:AccountType>Asset</n1:AccountType></n1:Account>
      <n1:Account><n1:AccountID>5010</n1:AccountID>
        <n1:AccountDescription><![CDATA[Coal <best>]]></n1:AccountDescription>
        <n1:AccountType>Expense</n1:AccountType></n1:Account>
    </n1:GeneralLedgerAccounts>
    <n1:Suppliers><n1:Supplier><n1:Name>Hollin Coal</n1:Name><n1:SupplierID>S1</n1:SupplierID>
      <n1:Contact><n1:Name>nobody</n1:Name></n1:Contact></n1:Supplier></n1:Suppliers>
  </n1:MasterFiles>
  <n1:GeneralLedgerEntries>
    <n1:NumberOfEntries>1</n1:NumberOfEntries>
    <n1:Journal><n1:JournalID>PUR</n1:JournalID>
      <n1:Transaction><n1:TransactionID>7</n1:TransactionID>
        <n1:TransactionDate>2026-04-02</n1:TransactionDate>
        <n1:Description>Two tonnes</n1:Description>
        <n1:GLPostingDate>2026-04-03</n1:GLPostingDate>
        <n1:Line><n1:RecordID>1</n1:RecordID><n1:AccountID>5010</n1:AccountID>
          <n1:Analysis><n1:AnalysisType>Site</n1:AnalysisType><n1:AnalysisID>North</n1:AnalysisID></n1:Analysis>
          <n1:SourceDocumentID>HC-1</n1:SourceDocumentID><n1:SupplierID>S1</n1:SupplierID>
          <n1:DebitAmount><n1:Amount>250.00</n1:Amount></n1:DebitAmount></n1:Line>
        <n1:Line><n1:RecordID>2</n1:RecordID><n1:AccountID>1010</n1:AccountID>
          <n1:Description>Paid</n1:Description>
          <n1:CreditAmount><n1:Amount>250.00</n1:Amount><n1:CurrencyCode>EUR</n1:CurrencyCode>
            <n1:CurrencyAmount>290.00</n1:CurrencyAmount></n1:CreditAmount></n1:Line>
      </n1:Transaction>
    </n1:Journal>
  </n1:GeneralLedgerEntries>
</n1:AuditFile>"#;

#[test]
fn a_standard_audit_file_holds_a_chart_and_its_journal() {
    let file = opened("books.xml", SAFT).unwrap();
    assert_eq!(file.kind, "SAF-T");
    assert_eq!(
        said(&file.sheets[0]),
        ["2 1010|Bank & till – Mossdale|Asset||", "3 5010|Coal <best>|Expense||"]
    );
    assert_eq!(
        said(&file.sheets[1]),
        [
            "2 PUR 7|2026-04-03|5010||250.00||Hollin Coal|Two tonnes|HC-1||||North",
            "3 PUR 7|2026-04-03|1010|||250.00||Paid||EUR|-290.00||",
        ]
    );
}

#[test]
fn amounts_may_stand_alone_and_lines_say_their_side() {
    let file = "<AuditFile><GeneralLedgerEntries><Journal><Transaction>\
        <TransactionID>1</TransactionID><TransactionDate>2026-04-02</TransactionDate>\
        <Lines><DebitLine><AccountID>5010</AccountID><DebitAmount>12.00</DebitAmount></DebitLine>\
        <CreditLine><AccountID>1010</AccountID><CreditAmount>12.00</CreditAmount></CreditLine></Lines>\
        </Transaction></Journal></GeneralLedgerEntries></AuditFile>";
    let file = opened("books.xml", file).unwrap();
    assert_eq!(
        said(&file.sheets[1]),
        ["2 1|2026-04-02|5010||12.00|||||||", "3 1|2026-04-02|1010|||12.00||||||"]
    );
}

#[test]
fn files_that_are_none_say_so() {
    let says = |name: &str, content: &str| opened(name, content).unwrap_err().to_string();
    let broken = &SAFT[..SAFT.len() - 40];
    assert!(says("books.xml", broken).contains("not a sound XML file"));
    let other = "<?xml version='1.0'?><Invoice/>";
    assert!(says("books.xml", other).contains("not a Standard Audit File"));
    let bomb = "<?xml version='1.0'?><!DOCTYPE a [<!ENTITY b 'bbbb'>]><AuditFile>&b;</AuditFile>";
    assert!(says("books.xml", bomb).contains("declares a document type"));
    let unknown = "<?xml version='1.0'?><AuditFile>&lol;</AuditFile>";
    assert!(says("books.xml", unknown).contains("unknown entity lol"));
    let deep = format!("<?xml version='1.0'?><AuditFile>{}", "<a>".repeat(100));
    assert!(says("books.xml", &deep).contains("without end"));
    assert!(says("books.csv", SAFT).contains("it holds XML"));
    assert!(says("books.xml", "Code,Name").contains("it holds plain text"));
    assert!(
        says("books.xml", "<?xml version='1.0' encoding='moon'?><AuditFile/>").contains("moon")
    );
    let latin = b"<?xml version='1.0' encoding='ISO-8859-1'?><AuditFile><MasterFiles>\
        <GeneralLedgerAccounts><Account><AccountID>1</AccountID><AccountDescription>Caf\xe9\
        </AccountDescription></Account></GeneralLedgerAccounts></MasterFiles></AuditFile>";
    let file = read("books.xml", latin, &How::default()).unwrap();
    assert_eq!(said(&file.sheets[0]), ["2 1|Café|||"]);
}

const HEAD: &str = "JournalCode|JournalLib|EcritureNum|EcritureDate|CompteNum|CompteLib|CompAuxNum|\
    CompAuxLib|PieceRef|PieceDate|EcritureLib|Debit|Credit|EcritureLet|DateLet|ValidDate|\
    Montantdevise|Idevise\n";

#[test]
fn french_accounting_entries_imply_their_chart() {
    let lines = "AC|Achats|1|20260403|606100|Charbon|||F-1|20260402|Deux tonnes|250,00|0,00|||20260430||\n\
        AC|Achats|1|20260403|401000|Fournisseurs|F01|Houillères|F-1|20260402|Deux tonnes|0,00|250,00|||20260430|290,00|USD\n\
        AC|Achats|1|20260403|281000|Amortissements|||||x|0,00|0,00||||| \n";
    let text = format!("{HEAD}{lines}");
    for (name, text) in [("fec.txt", text.clone()), ("fec.csv", text.replace('|', "\t"))] {
        let file = opened(name, &text).unwrap();
        assert_eq!(file.kind, "FEC");
        assert_eq!(
            said(&file.sheets[0])[..2],
            [
                "2 AC 1|2026-04-03|606100|Charbon|250,00|||Deux tonnes|F-1|||",
                "3 AC 1|2026-04-03|401000|Fournisseurs||250,00|Houillères|Deux tonnes|F-1|USD|-290,00|",
            ]
        );
        assert_eq!(
            said(&file.sheets[1]),
            [
                "2 606100|Charbon|expense||",
                "3 401000|Fournisseurs|liability|trade and other payables|",
                "4 281000|Amortissements|asset|property, plant and equipment|yes",
            ]
        );
    }
    // One amount with its side will do as well.
    let sided = HEAD.replace("Debit|Credit", "Montant|Sens");
    let line = "AC|Achats|1|20260403|606100|Charbon|||F-1|20260402|x|250,00|C|||20260430||\n";
    let file = opened("fec.txt", &format!("{sided}{line}")).unwrap();
    assert_eq!(said(&file.sheets[0]), ["2 AC 1|2026-04-03|606100|Charbon||250,00||x|F-1|||"]);
}

#[test]
fn the_classes_of_french_codes_are_those_of_the_general_chart() {
    let line = |code: &str| {
        format!("AC|A|1|20260403|{code}|Compte|||F|20260402|x|1,00|0,00|||20260430||\n")
    };
    let codes = [
        ("101000", "equity|capital and funds|"),
        ("120000", "equity|retained earnings|"),
        ("151000", "liability|provisions|"),
        ("164000", "liability|borrowings|"),
        ("205000", "asset|intangible assets|"),
        ("213000", "asset|property, plant and equipment|"),
        ("261000", "asset|investments|"),
        ("281300", "asset|property, plant and equipment|yes"),
        ("310000", "asset|inventories|"),
        ("401000", "liability|trade and other payables|"),
        ("409100", "asset|trade and other receivables|"),
        ("411000", "asset|trade and other receivables|"),
        ("419100", "liability|trade and other payables|"),
        ("445620", "asset|taxes|"),
        ("445710", "liability|taxes|"),
        ("486000", "asset|prepayments|"),
        ("487000", "liability|deferred income|"),
        ("491000", "asset|trade and other receivables|yes"),
        ("512000", "asset|cash and cash equivalents|"),
        ("519000", "liability|borrowings|"),
        ("641000", "expense|employee benefits|"),
        ("661000", "expense|finance costs|"),
        ("706000", "income|revenue|"),
        ("890000", "||"),
    ];
    let text: String = codes.iter().map(|(code, _)| line(code)).collect();
    let file = opened("fec.txt", &format!("{HEAD}{text}")).unwrap();
    let expected: Vec<String> =
        (2..).zip(codes).map(|(n, (code, said))| format!("{n} {code}|Compte|{said}")).collect();
    assert_eq!(said(&file.sheets[1]), expected);
}

fn text() -> impl Strategy<Value = String> {
    "[ -~£éß“”]{0,12}".prop_map(|text| text.trim().to_owned())
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn what_is_written_reads_back(
        names in prop::collection::vec(text(), 1..4),
        lines in prop::collection::vec((text(), text(), 0u32..100_000, any::<bool>()), 1..6),
    ) {
        let accounts: Vec<AuditAccount> = (1..).zip(&names).map(|(n, name)| AuditAccount {
            code: format!("{n}0"), name: name.clone(), class: "asset".to_owned(), section: String::new(),
        }).collect();
        let payees: Vec<String> = lines.iter().map(|(payee, ..)| payee.clone()).collect();
        let entry = AuditEntry {
            number: "J1".to_owned(), date: "2026-04-03".to_owned(), kind: "ordinary".to_owned(),
            lines: lines.iter().map(|(payee, memo, amount, credit)| AuditLine {
                account: "10".to_owned(), amount: format!("{amount}.00"), credit: *credit,
                payee: payee.clone(), memo: memo.clone(), ..AuditLine::default()
            }).collect(),
        };
        let mut file = AuditWriter::new(&AuditHeader::default(), &accounts, &payees).unwrap();
        file.entry(&entry).unwrap();
        let file = read("a.xml", file.finish().unwrap(), &How::default()).unwrap();
        let expected: Vec<String> =
            (2..).zip(&accounts).map(|(n, a)| format!("{n} {}|{}|asset||", a.code, a.name)).collect();
        prop_assert_eq!(said(&file.sheets[0]), expected);
        let expected: Vec<String> = (2..).zip(&lines).map(|(n, (payee, memo, amount, credit))| {
            let (debit, credit) = if *credit { (String::new(), format!("{amount}.00")) } else { (format!("{amount}.00"), String::new()) };
            format!("{n} J1|2026-04-03|10||{debit}|{credit}|{payee}|{memo}||||")
        }).collect();
        prop_assert_eq!(said(&file.sheets[1]), expected);
    }

    #[test]
    fn no_damage_makes_the_reader_panic(at in 0usize..3000, byte in any::<u8>()) {
        let mut content = SAFT.as_bytes().to_vec();
        let at = at % content.len();
        content[at] = byte;
        let _ = read("a.xml", content, &How::default());
    }
}
