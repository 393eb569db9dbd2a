//! How Rust is laid out, construct by construct.

mod canons;
mod macros;

use crate::languages::testing::{faults, lay, lay_with, lines};

fn rust(text: &[&str]) -> String {
    lay("rust", &lines(text))
}

#[test]
fn items() {
    insta::assert_snapshot!(rust(&[
        "#![no_std] extern   crate alloc;",
        "pub( crate )  mod tide ;",
        "use a::{self,b :: *,c as d}; pub use ::e;",
        "pub const  A:u8=1 ; static mut B : [ u8;2 ]=[0;2];",
        "type C<T>=Vec< T >;",
        "struct D; struct E<T>( pub T,u8 ) ;",
        "#[derive( Clone,Copy )] pub struct F{ a:u8,#[b] pub c : u8 }",
        "enum G{ H,I( u8 ),J{ k:u8 },#[default] L=1<<2 }",
        "union M { n:u8 }",
        "pub unsafe  extern \"C\" fn  o( p:* const u8,... ){}",
        "unsafe extern \"C\" { fn q( ) ; static R:u8; }",
    ]), @r#"
    #![no_std]
    extern crate alloc;
    pub(crate) mod tide;
    use a::{self, b::*, c as d};
    pub use ::e;
    pub const A: u8 = 1;
    static mut B: [u8; 2] = [0; 2];
    type C<T> = Vec<T>;
    struct D;
    struct E<T>(pub T, u8);
    #[derive(Clone, Copy)]
    pub struct F {
        a: u8,
        #[b]
        pub c: u8,
    }
    enum G {
        H,
        I(u8),
        J { k: u8 },
        #[default]
        L = 1 << 2,
    }
    union M {
        n: u8,
    }
    pub unsafe extern "C" fn o(p: *const u8, ...) {}
    unsafe extern "C" {
        fn q();
        static R: u8;
    }
    "#);
}

#[test]
fn functions_and_their_bounds() {
    insta::assert_snapshot!(rust(&[
        "async fn a<'t,T : Ebb+'t,const N:usize=1>( &'t mut self,mut b: T )->impl Fn( u8 )->u8+use<'t,T> where T:Send,for<'a> &'a T: Into<u8>{ }",
        "fn b( self:&mut Self,_:&dyn Fn()->! ) where Self:Sized;",
        "fn c() -> Box<dyn Ebb + Send> { d() }",
        "impl<T:?Sized> Ebb for Gauge<T> where T: Flood {}",
        "impl<T:?Sized> Ebb for Gauge<T> where T: Flood { const A:u8=1; type B=u8; fn e(){} }",
        "unsafe impl !Sync for Gauge{}",
        "pub trait Source:Ebb+Flood{ type Item<'a>:Copy where Self:'a; fn f( & self ); }",
    ]), @"
    async fn a<'t, T: Ebb + 't, const N: usize = 1>(
        &'t mut self,
        mut b: T,
    ) -> impl Fn(u8) -> u8 + use<'t, T>
    where
        T: Send,
        for<'a> &'a T: Into<u8>,
    {
    }
    fn b(self: &mut Self, _: &dyn Fn() -> !)
    where
        Self: Sized;
    fn c() -> Box<dyn Ebb + Send> {
        d()
    }
    impl<T: ?Sized> Ebb for Gauge<T> where T: Flood {}
    impl<T: ?Sized> Ebb for Gauge<T>
    where
        T: Flood,
    {
        const A: u8 = 1;
        type B = u8;
        fn e() {}
    }
    unsafe impl !Sync for Gauge {}
    pub trait Source: Ebb + Flood {
        type Item<'a>: Copy
        where
            Self: 'a;
        fn f(&self);
    }
    ");
}

#[test]
fn a_header_that_is_too_long_is_broken_where_its_parts_meet() {
    insta::assert_snapshot!(rust(&[
        "pub fn schedule(gauges: &[Gauge], from: Hour, until: Hour, fallback: impl Fn(&Gauge) -> Level) -> Vec<Level> { work() }",
        "impl<Reading, Quality: Ord + Default> From<Measurement<Reading, Quality>> for Observation<Reading, Quality> { fn f() {} }",
        "pub trait ObservationSource: Iterator<Item = Observation> + ExactSizeIterator + Clone + Send + Sync { fn f(); }",
        "impl<const READINGS_IN_AN_HOUR: usize, Quality: Ord + Default + Clone> HourOfReadings<READINGS_IN_AN_HOUR, Quality> { fn f() {} }",
    ]), @"
    pub fn schedule(
        gauges: &[Gauge],
        from: Hour,
        until: Hour,
        fallback: impl Fn(&Gauge) -> Level,
    ) -> Vec<Level> {
        work()
    }
    impl<Reading, Quality: Ord + Default> From<Measurement<Reading, Quality>>
        for Observation<Reading, Quality>
    {
        fn f() {}
    }
    pub trait ObservationSource: Iterator<Item = Observation> + ExactSizeIterator + Clone + Send + Sync
    {
        fn f();
    }
    impl<const READINGS_IN_AN_HOUR: usize, Quality: Ord + Default + Clone>
        HourOfReadings<READINGS_IN_AN_HOUR, Quality>
    {
        fn f() {}
    }
    ");
}

#[test]
fn statements_and_blocks() {
    insta::assert_snapshot!(rust(&[
        "fn a(){",
        "  let  mut b :u8=1;let( c,d )=e else{return};",
        "  let Some(level) = gauge.read() else { warn(); return; };",
        "  if b{c}else if d{e}else{f}",
        "  let g=if h{1}else{2};let i = unsafe{j()};",
        "  'k : while let Some( l )=m&&n{ break 'k; }",
        "  for( o,p ) in q.iter( ).enumerate( ){continue}",
        "  let r='s: {break 's 1};",
        "  loop{} ;return  t",
        "}",
    ]), @"
    fn a() {
        let mut b: u8 = 1;
        let (c, d) = e else { return };
        let Some(level) = gauge.read() else {
            warn();
            return;
        };
        if b {
            c
        } else if d {
            e
        } else {
            f
        }
        let g = if h { 1 } else { 2 };
        let i = unsafe { j() };
        'k: while let Some(l) = m && n {
            break 'k;
        }
        for (o, p) in q.iter().enumerate() {
            continue
        }
        let r = 's: {
            break 's 1
        };
        loop {};
        return t
    }
    ");
}

#[test]
fn matches() {
    insta::assert_snapshot!(rust(&[
        "fn a() { match b { Some( c )if c>1=>{d( )} E::F{g,..}|E::H( _,.. )=>i,",
        "1..=2|3.. =>j,ref k@..4=>l, [m,..,n]=>{},&( ref mut o,-1 )=>if p{1}else{2} #[q] _=>unreachable!( ) } }",
    ]), @"
    fn a() {
        match b {
            Some(c) if c > 1 => {
                d()
            }
            E::F { g, .. } | E::H(_, ..) => i,
            1..=2 | 3.. => j,
            ref k @ ..4 => l,
            [m, .., n] => {},
            &(ref mut o, -1) => if p { 1 } else { 2 }
            #[q]
            _ => unreachable!(),
        }
    }
    ");
}

#[test]
fn what_stands_behind_a_header_of_several_lines_has_a_line_of_its_own() {
    insta::assert_snapshot!(rust(&[
        "fn a() {",
        "    if first_condition_of_several(one, two) && second_condition_of_several(three, four) && !third {",
        "        b();",
        "    }",
        "    let Some(level) = readings_of_the_last_hour.iter().rev().find_map(|reading| reading.level(unit)) else { return };",
        "    match gauge.readings().filter(|reading| reading.is_good()).map(|reading| reading.level).max_by(compare) {",
        "        Some(level) if level > highest_level_of_the_year && level.is_plausible_at(harbour, quay, mole) => { warn(); }",
        "        _ => (),",
        "    }",
        "    if let Observation {",
        "        level,",
        "    } = observation { c(level); }",
        "    for pixel in picture_of_the_harbour.rows_of_pixels_from_the_top(usize::from(bits_per_pixel / 8)) { d(); }",
        "}",
    ]), @"
    fn a() {
        if first_condition_of_several(one, two) && second_condition_of_several(three, four) && !third {
            b();
        }
        let Some(level) = readings_of_the_last_hour.iter().rev().find_map(|reading| reading.level(unit))
        else {
            return
        };
        match gauge
            .readings()
            .filter(|reading| reading.is_good())
            .map(|reading| reading.level)
            .max_by(compare)
        {
            Some(level)
                if level > highest_level_of_the_year && level.is_plausible_at(harbour, quay, mole) =>
            {
                warn();
            }
            _ => (),
        }
        if let Observation {
            level,
        } = observation
        {
            c(level);
        }
        for pixel in picture_of_the_harbour.rows_of_pixels_from_the_top(usize::from(bits_per_pixel / 8))
        {
            d();
        }
    }
    ");
}

#[test]
fn expressions() {
    insta::assert_snapshot!(rust(&[
        "fn a() {",
        "b( c,&mut d,&raw const e,!f,-1,* g,h as u8,i? ) ;j[ 0 ]=k[ 1.. ][ ..=l ][ ..-1 ][ m..*n ];",
        "o.p . q( ).0 .1.await? ;r::<u8>::s::<( ) >( );<T as U>::v( );",
        "w+=1;x= y<<2|z&&!b;( a,) ;( a+b )*c;[ d,e ];[0;f ];",
        "G{h,i :1,..j( ) };k( || l,|m:u8|->u8{m},async move|n|{o( )} );",
        "return (p, q)",
        "}",
    ]), @"
    fn a() {
        b(c, &mut d, &raw const e, !f, -1, *g, h as u8, i?);
        j[0] = k[1..][..=l][..-1][m..*n];
        o.p.q().0 .1.await?;
        r::<u8>::s::<()>();
        <T as U>::v();
        w += 1;
        x = y << 2 | z && !b;
        (a,);
        (a + b) * c;
        [d, e];
        [0; f];
        G { h, i: 1, ..j() };
        k(|| l, |m: u8| -> u8 { m }, async move |n| { o() });
        return (p, q)
    }
    ");
}

#[test]
fn a_chain_is_broken_before_each_link() {
    insta::assert_snapshot!(rust(&[
        "fn a() {",
        "    let levels = gauges.iter().filter(|gauge| gauge.is_open()).map(|gauge| gauge.level()).collect::<Vec<_>>();",
        "    self.source.lock().expect(\"nobody panics with the lock\").read_all(from, until).await.context(\"reading\")?;",
        "    let level = Gauge::open(",
        "        quay,",
        "        mole,",
        "    ).read()",
        "        .await;",
        "    a.0.iter()",
        "        .sum()",
        "}",
    ]), @r#"
    fn a() {
        let levels = gauges
            .iter()
            .filter(|gauge| gauge.is_open())
            .map(|gauge| gauge.level())
            .collect::<Vec<_>>();
        self.source
            .lock()
            .expect("nobody panics with the lock")
            .read_all(from, until)
            .await
            .context("reading")?;
        let level = Gauge::open(
            quay,
            mole,
        )
        .read()
        .await;
        a.0.iter().sum()
    }
    "#);
}

#[test]
fn operators_and_lists_that_are_too_long() {
    insta::assert_snapshot!(rust(&[
        "fn a() {",
        "    let late = spring_tide_at_the_quay + surge_of_the_night + neap_correction - river_level_upstream * 2;",
        "    warn(spring_tide_at_the_quay + surge_of_the_night + neap_correction, river_level_upstream, keepers_on_duty);",
        "    listen(keepers_on_duty, siren_at_the_mole, |warning| { ring(warning); }, retries_before_giving_up, last);",
        "    let b = Observation { gauge: gauge_at_the_quay, level: level_above_zero, quality: Quality::Good, unit };",
        "    describe(\"a text that is so long that no line of a hundred columns could ever hold all of it at once, alas\");",
        "    let c = \"another text that is so long that no line of a hundred columns could ever hold it, not even alone\";",
        "}",
        "use crate::observations::{error::UrlError, http::StatusCode, level::Level, Gauge, Observation, Quality, Unit};",
        "use crate::{",
        "    kept, within, rows::{a, b},",
        "    as_they, stand,",
        "};",
    ]), @r#"
    fn a() {
        let late = spring_tide_at_the_quay
            + surge_of_the_night
            + neap_correction
            - river_level_upstream * 2;
        warn(
            spring_tide_at_the_quay + surge_of_the_night + neap_correction,
            river_level_upstream,
            keepers_on_duty,
        );
        listen(
            keepers_on_duty,
            siren_at_the_mole,
            |warning| {
                ring(warning);
            },
            retries_before_giving_up,
            last,
        );
        let b = Observation {
            gauge: gauge_at_the_quay,
            level: level_above_zero,
            quality: Quality::Good,
            unit,
        };
        describe("a text that is so long that no line of a hundred columns could ever hold all of it at once, alas");
        let c = "another text that is so long that no line of a hundred columns could ever hold it, not even alone";
    }
    use crate::observations::{
        error::UrlError,
        http::StatusCode,
        level::Level,
        Gauge,
        Observation,
        Quality,
        Unit,
    };
    use crate::{
        kept, within, rows::{a, b},
        as_they, stand,
    };
    "#);
}

#[test]
fn bounds_that_open_stand_beneath_each_other_and_the_brace_on_its_own_line() {
    let bounds = "Send + Sync + Clone + Copy + Debug + Display + PartialEq + Eq + Hash + Ord";
    let text = format!(
        "trait Tide: {bounds} + PartialOrd + Serialize {{ fn ebb(); }}\n\
         fn mend<Gauge: {bounds}, Buoy: Send>(gauge: Gauge) {{ warn(); }}\n"
    );
    insta::assert_snapshot!(lay("rust", &text), @"
    trait Tide:
        Send
        + Sync
        + Clone
        + Copy
        + Debug
        + Display
        + PartialEq
        + Eq
        + Hash
        + Ord
        + PartialOrd
        + Serialize
    {
        fn ebb();
    }
    fn mend<
        Gauge: Send + Sync + Clone + Copy + Debug + Display + PartialEq + Eq + Hash + Ord,
        Buoy: Send,
    >(gauge: Gauge) {
        warn();
    }
    ");
}

#[test]
fn a_table_of_bytes_keeps_its_rows_around_comments() {
    let text = lines(&[
        "static LEVELS: &[u8] = &[",
        "    // ebb",
        "    0x00, 0x01,",
        "    // flood",
        "    0x02, 0x03, 0x04,",
        "];",
    ]);
    assert_eq!(lay("rust", &text), text);
}

/// A macro may be named as a type of the language is.
#[test]
fn a_macro_that_is_named_as_a_type_is_read() {
    let text = "fn f() {\n    tide(str![[r#\"\na \"  b\n\"#]]);\n    let x  = str![];\n}\n";
    assert_eq!(lay("rust", text), text.replace("x  =", "x ="));
}

/// Blanks within it make nothing longer than it is.
#[test]
fn what_is_no_longer_than_a_step_keeps_its_first_link() {
    let text = "fn a() {\n    a.0.iter()\n        .zip(b.0.iter())\n        .fold(0.0, |most, (a, b)| f32::max(most, (a - b).abs()) + highest_water_since(a, b));\n}\n";
    assert_eq!(lay("rust", text), text);
    assert_eq!(lay("rust", &text.replace("a.0.iter", "a  .0.iter")), text);
}

#[test]
fn a_lifetime_before_its_trait_and_a_mark_for_macros_are_read() {
    let text = "type Read<'a> = Box<dyn 'a + Fn(f64) -> f64>;\n\nfn ebb() {\n    input.parse::<Token![~]>();\n}\n";
    assert!(faults("rust", text).is_empty());
    assert_eq!(lay("rust", text), text);
    assert_eq!(lay("rust", &text.replace(" -> ", "->").replace("    input", "  input")), text);
}

/// A short name that begins a line keeps the first links of its chain; one amid a line stands alone there, but
/// for a tuple's fields. What somebody broke otherwise stays.
#[test]
fn a_chain_amid_a_line_begins_with_its_name_alone() {
    let narrow = [("max_line_length", "", "40")];
    let lay = |line: &str| lay_with("rust", &narrow, &format!("fn a() {{\n    {line}\n}}\n"));
    let of = |lines: &str| format!("fn a() {{\n    {lines}\n}}\n");
    for (text, wanted) in [
        (
            "self.quay.gauge.read(mole, pier_of_1);",
            "self.quay\n        .gauge\n        .read(mole, pier_of_1);",
        ),
        (
            "let a = self.quay.gauge.read(mole, 1);",
            "let a = self\n        .quay\n        .gauge\n        .read(mole, 1);",
        ),
        (
            "*low.quay.gauge.read(mole, pier_of_12);",
            "*low.quay\n        .gauge\n        .read(mole, pier_of_12);",
        ),
        (
            "let a = t.0.quay.gauge.read(mole, 12);",
            "let a = t.0\n        .quay\n        .gauge\n        .read(mole, 12);",
        ),
        (
            "let a = low.quay\n        .gauge.read(mole, pier);",
            "let a = low.quay\n        .gauge\n        .read(mole, pier);",
        ),
    ] {
        assert_eq!(lay(text), of(wanted));
        assert_eq!(lay(wanted), of(wanted));
    }
}

/// A method's call that is all that another one is called with has its own line where it fits there; what a
/// function is called with is opened where it is, behind a `?` as well.
#[test]
fn what_a_call_is_given_alone_opens_as_people_write_it() {
    let narrow = [("max_line_length", "", "40")];
    let of = |lines: &str| format!("fn a() {{\n    {lines}\n}}\n");
    for (text, wanted) in [
        (
            "found(gauge.read(mole, quay, pier_1));",
            "found(\n        gauge.read(mole, quay, pier_1),\n    );",
        ),
        (
            "found(gauge.read(mole, quay, pier_1)?);",
            "found(\n        gauge.read(mole, quay, pier_1)?,\n    );",
        ),
        (
            "found(read(gauge, mole, quay, the_pier)?);",
            "found(read(\n        gauge, mole, quay, the_pier,\n    )?);",
        ),
    ] {
        let laid = lay_with("rust", &narrow, &of(text));
        let one_each = wanted.replace(
            "gauge, mole, quay, the_pier,",
            "gauge,\n        mole,\n        quay,\n        the_pier,",
        );
        assert_eq!(laid, of(&one_each));
        assert_eq!(lay_with("rust", &narrow, &laid), laid);
    }
}

/// The grammar reads a call of `break` there, whose last comma would be nobody's.
#[test]
fn a_tuple_behind_break_keeps_its_comma() {
    for value in ["(\"low\",)", "(\"low\")"] {
        let text = format!(
            "fn ebb() {{ let a = match b {{ _ => 'mole: loop {{ break 'mole {value} }}, }}; }}"
        );
        for wanted in ["open_list", "never"] {
            let laid = lay_with("rust", &[("last_comma", "", wanted)], &text);
            assert!(laid.contains(&format!("break 'mole {value}")), "{laid}");
        }
    }
}

#[test]
fn rows_that_stand_anywhere_stay_where_their_signs_stick_out() {
    let text = "\
fn lu() {
    let m = Matrix3::new(
        2.0, -1.0,  0.0,
       -1.0,  2.0, -1.0,
        0.0, -1.0,  2.0
    );
}
";
    assert_eq!(lay_with("rust", &[("wrap_align", "", "any")], text), text);
}

#[test]
fn brackets_behind_a_list_do_not_open_it() {
    let narrow = [
        ("wrap_align", "", "bracket"),
        ("close_bracket", "", "with_last"),
        ("operator_place", "", "trails"),
        ("max_line_length", "", "50"),
    ];
    let text = "fn test_iter(iter: impl Iterator<Item = usize> + Clone) -> [i32; 9] {\n    let mut rng = crate::test::rng(417);\n}\n";
    let wanted = "fn test_iter(iter: impl Iterator<Item = usize> +\n    Clone) -> [i32; 9] {\n    let mut rng = crate::test::rng(417);\n}\n";
    assert_eq!(lay_with("rust", &narrow, text), wanted);
}

/// The grammar reads none before a field of a pattern.
#[test]
fn what_is_said_of_a_field_of_a_pattern_is_read() {
    let text = "\
#[derive(Debug)]
struct Gauge {
    #[cfg(tide)]
    level: f64,
}

fn warn(gauge: Gauge) {
    let Gauge {
        #[cfg(tide)]
        level,
        #[cfg(feature = \"ebb\")]
            low: _,
    } = gauge;
    match gauge {
        Gauge { #[cfg(tide)] level } => warn(level),
    }
}
";
    assert!(faults("rust", text).is_empty());
    let laid = lay("rust", text);
    assert_eq!(laid, text.replace("            low: _", "        low: _"));
    assert_eq!(lay("rust", &laid), laid);
}
