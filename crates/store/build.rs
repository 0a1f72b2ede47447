//! A new migration is compiled in although no source file changed.

fn main() {
    println!("cargo:rerun-if-changed=migrations");
}
