//! How Java is laid out.

use crate::languages::testing::{lay, lay_with, touched};

#[test]
fn types_and_members_are_laid_out() {
    insta::assert_snapshot!(lay("java", "\
package  saltmarsh ;
import  java.util. * ;
public class Quay<A,B extends C&D>extends Gauge<A>implements Alarm{
private final int level=2,ebb ;int[] a [] ;
Quay( int level,String ... names )throws Storm,Calm{super( level ) ;}
abstract<T>void read( ) ;
static{load();}
int high(){return 2;}
record Level(int at){Level{check();}}
@interface Note{int at( )default 1;}
}
"), @"
    package saltmarsh;
    import java.util.*;

    public class Quay<A, B extends C & D> extends Gauge<A> implements Alarm {
        private final int level = 2, ebb;
        int[] a[];

        Quay(int level, String... names) throws Storm, Calm {
            super(level);
        }

        abstract <T> void read();
        static {
            load();
        }

        int high() {
            return 2;
        }

        record Level(int at) {
            Level {
                check();
            }
        }

        @interface Note {
            int at() default 1;
        }
    }
    ");
}

#[test]
fn statements_are_laid_out() {
    insta::assert_snapshot!(lay("java", "\
class A{void f(){
if(a)b();else if(c){d();}else{e();}
for(int i=0,j=1;i<j;i++,j--){}for(var a:b)c(a);
while(a)b();do{c();}while(d);
try(var log=open();shut){a();}catch(Storm|Calm s){}finally{b();}
switch(a){case 1:case 2:b();break;default:c();}
int d=switch(a){case 1,2->3;case Neap n when n.b()>2->{yield 4;}default->throw e;};
synchronized(this){assert a>2:\"low\" ;}
outer:for(;;)break outer;
}}
"), @r#"
    class A {
        void f() {
            if (a) b(); else if (c) {
                d();
            } else {
                e();
            }
            for (int i = 0, j = 1; i < j; i++, j--) {}
            for (var a : b) c(a);
            while (a) b();
            do {
                c();
            } while (d);
            try (var log = open(); shut) {
                a();
            } catch (Storm | Calm s) {} finally {
                b();
            }
            switch (a) {
                case 1:
                case 2:
                    b();
                    break;
                default:
                    c();
            }
            int d = switch (a) {
                case 1, 2 -> 3;
                case Neap n when n.b() > 2 -> {
                    yield 4;
                }
                default -> throw e;
            };
            synchronized (this) {
                assert a > 2 : "low";
            }
            outer: for (;;) break outer;
        }
    }
    "#);
}

#[test]
fn expressions_are_laid_out() {
    insta::assert_snapshot!(lay("java", "\
class A{Object a=b.<C>d(-1,- -e,!f,~g,h++)[ 2 ].i,j=(int)k,l=m::new,n=new int[ 2 ][ ],o=p?q:r;
boolean s=t instanceof final U u&&v>>>2==w;Runnable x=()->y(),z=a->{b();};
Object c=new D(2){int e;};int[]f={1,2,},g=new int[]{};
@E(f=1,g={2,3})@H int i;char j='x';
}
"), @"
    class A {
        Object a = b.<C>d(-1, - -e, !f, ~g, h++)[2].i,
            j = (int) k,
            l = m::new,
            n = new int[2][],
            o = p ? q : r;
        boolean s = t instanceof final U u && v >>> 2 == w;
        Runnable x = () -> y(), z = a -> {
            b();
        };
        Object c = new D(2) {
            int e;
        };
        int[] f = {1, 2,}, g = new int[]{};
        @E(f = 1, g = {2, 3}) @H int i;
        char j = 'x';
    }
    ");
}

#[test]
fn what_does_not_fit_is_broken_where_people_break_it() {
    let narrow = [("max_line_length", "", "50")];
    insta::assert_snapshot!(lay_with("java", &narrow, "\
class Quay extends Gauge implements Alarm, Siren, Horn {
    Level read(String station, int from, int to) throws Storm, Calm {
        boolean high = level > 2 && ebb < 3 || station.isEmpty();
        warn(\"the harbour\", station, level + 2, from - to);
        gauges.stream().filter(Gauge::isHigh).map(Gauge::level).toList();
        watch(\"quay\", gauge -> {
            warn(gauge);
        });
        String text = high ? \"high water at the quay\" : \"low water\";
        return new Level(station, from, to, ebb, flood, slack);
    }
}
"), @r#"
    class Quay
            extends Gauge
            implements Alarm, Siren, Horn {
        Level read(String station, int from, int to)
                throws Storm, Calm {
            boolean high = level > 2 && ebb < 3
                    || station.isEmpty();
            warn(
                    "the harbour",
                    station,
                    level + 2,
                    from - to);
            gauges.stream()
                    .filter(Gauge::isHigh)
                    .map(Gauge::level)
                    .toList();
            watch("quay", gauge -> {
                warn(gauge);
            });
            String text = high
                    ? "high water at the quay"
                    : "low water";
            return new Level(
                    station,
                    from,
                    to,
                    ebb,
                    flood,
                    slack);
        }
    }
    "#);
}

#[test]
fn what_somebody_lined_up_stays_so() {
    let text = "\
class A {
    void f(int a,
           int b) {
        warn(a,
             b);
        if (a > 2
            && b < 3) {
            warn(\"a\"
                 + \"b\");
        }
    }
}
";
    assert_eq!(lay("java", text), text);
}

#[test]
fn a_text_block_stays_to_the_byte() {
    let text = "class A {\n    String a = \"\"\"\n      ebb\n        flood\\\n      \"\"\";\n}\n";
    assert_eq!(lay("java", &text.replace("    String a =", " String a=")), text);
}

#[test]
fn a_touched_member_stands_beside_the_others() {
    let before = "class A {\n  int a=1;\n\n  int b;\n}\n";
    let now = before.replace("int b;", "void b( ){ ebb( ); }");
    let wanted = "class A {\n  int a=1;\n\n  void b() {\n    ebb();\n  }\n}\n";
    assert_eq!(touched("java", before, &now), wanted);
}

#[test]
fn modifiers_change_places_and_annotations_do_not() {
    let text = "class A {\n    final @B static public int c = 1;\n\n    @D synchronized protected void e() {\n    }\n}\n";
    let wanted = "class A {\n    public @B static final int c = 1;\n\n    @D protected synchronized void e() {\n    }\n}\n";
    assert_eq!(lay_with("java", &[("modifier_order", "", "guide")], text), wanted);
}
