package   saltmarsh . tides ;
import java.util.*;import java.io.File;
public class Hasty<A,B>extends Station{
private int level=2,ebb ;final static public int TOP=2;
  @Deprecated int old;
  @Override public String toString( ){return "a"+level;}
int[] all(int a,String ... b)throws Storm{if(a>2){return null;}else return new int[]{1,2,};}
    void run(){for(int i=0;i<3;i++)warn(i);while(ebb>0)ebb--;
	do{ebb++;}while(ebb<2);
	try{ open( ); }catch(Storm s){}finally{ shut(); }
	switch(ebb){case 1:warn();break;default:}
	Runnable r=()->warn( 2 ),s=a->{warn();};
	level=ebb>2?1:!high?2:3;
	;
	synchronized(this){x[ 1 ]=(int)y;}
	}
enum Kind{A,B(2);int c;Kind(){} Kind(int c){}}
@interface Note{int a()default 1;}
}
class Other{}
